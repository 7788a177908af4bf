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

createApp(App)
  .use(createPinia())
  .use(VueQueryPlugin, { queryClientConfig: { defaultOptions: { queries: { staleTime: 5_000, retry: 1 } } } })
  .use(router)
  .mount('#app');
