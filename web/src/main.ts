import './app.css';

import { mount } from 'svelte';

import App from './App.svelte';

const target = document.getElementById('app');
if (!target) throw new Error('index.html has no #app');
export default mount(App, { target });

/** How long the page rests before it is kept on this device for a reload without a connection [ms]. */
const AT_REST = 4000;
if ('serviceWorker' in navigator && import.meta.env.PROD) {
  addEventListener('load', () =>
    setTimeout(() => void navigator.serviceWorker.register('/sw.js').catch(() => {}), AT_REST),
  );
}
