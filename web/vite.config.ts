import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import icons from 'unplugin-icons/vite';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

/** What the first page is made of: one file, since each further one is a way to the server and back before the first paint. */
const FIRST_PAGE = [
  /node_modules\/(svelte|svelte-spa-router|openapi-fetch|uuid|regexparam|esm-env|idb|clsx)\//,
  /src\/App\.svelte/,
  /src\/lib\/api\/(client|once)/,
  /src\/lib\/airpath\/(AirPath|Station|Pegs|Glyph|layout|words)/,
  /src\/lib\/state\/(house|session|outbox|kept|load|notice|keys|theme|store|picks)\b/,
  /src\/lib\/ui\/(Loaded|Waiting|Trouble|Notice|Row)\.svelte/,
  /src\/lib\/words\/(format|round|tasks|why|groups|motion)\b/,
  /src\/routes\/(Round|SignIn|Nowhere|Moved)\.svelte/,
  /src\/routes\/round\/(Board|MachineRow|RanIt|ToDo|TaskRow|Foot|Else|WholeHouse)\.svelte/,
];

export default defineConfig({
  // By which a page that was kept on the device is known to be of another build.
  define: { BUILD: JSON.stringify(Date.now().toString(36)) },
  plugins: [
    tailwindcss(),
    svelte(),
    icons({ compiler: 'svelte' }),
    // The page itself, kept on the device: a reload at the sink works without a connection. Answers of the API are not
    // kept here; what was answered waits in the outbox.
    VitePWA({
      injectRegister: null,
      registerType: 'autoUpdate',
      manifest: {
        name: 'Yperon',
        short_name: 'Yperon',
        display: 'standalone',
        start_url: '/',
        background_color: '#e8eeec',
        theme_color: '#17201e',
        icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api/, /^\/authority\.crt/],
        // Fetched in one go after the page is at rest, so nothing of it counts against the first paint.
        inlineWorkboxRuntime: true,
      },
    }),
  ],
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
  // Inlined data: files would need an exception in the Content-Security-Policy.
  build: {
    assetsInlineLimit: 0,
    target: 'es2022',
    rollupOptions: {
      output: {
        advancedChunks: {
          groups: [{ name: 'first', test: (id: string) => FIRST_PAGE.some((one) => one.test(id)) }],
          includeDependenciesRecursively: false,
        },
      },
    },
  },
});
