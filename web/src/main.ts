import '@fontsource/barlow-semi-condensed/latin-400.css';
import '@fontsource/barlow-semi-condensed/latin-500.css';
import '@fontsource/barlow-semi-condensed/latin-600.css';
import '@fontsource/source-serif-4/latin-400-italic.css';
import './app/theme.css';
import { VueQueryPlugin } from '@tanstack/vue-query';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './app/App.vue';
import { router } from './app/router.js';
import { followChanges } from './data/feed.js';
import { makeQueryClient } from './data/queryClient.js';

const queryClient = makeQueryClient();
const app = createApp(App).use(createPinia()).use(VueQueryPlugin, { queryClient }).use(router);

// Drawing is a task of its own: together with the reading of the scripts it would hold a slow machine up.
setTimeout(() => {
  app.mount('#app');
  followChanges(queryClient);
});

// Once the page has settled: it is for the visit on which nothing answers.
const UNHURRIED = 5000;
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  setTimeout(() => void navigator.serviceWorker.register('/offline.js').catch(() => undefined), UNHURRIED);
