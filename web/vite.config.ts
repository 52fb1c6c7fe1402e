import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import icons from 'unplugin-icons/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [tailwindcss(), svelte(), icons({ compiler: 'svelte' })],
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
  // Inlined data: files would need an exception in the Content-Security-Policy.
  build: { assetsInlineLimit: 0, target: 'es2022' },
});
