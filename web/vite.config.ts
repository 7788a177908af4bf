import vue from '@vitejs/plugin-vue';
import Components from 'unplugin-vue-components/vite';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import { defineConfig } from 'vite';
import { firstScreenUnder } from './build/firstScreen.js';

/** JavaScript of the first screen, gzipped, bytes. */
const FIRST_SCREEN = 220_000;

export default defineConfig({
  plugins: [
    vue(),
    Components({
      dts: 'src/components.generated.d.ts',
      dirs: [],
      resolvers: [ElementPlusResolver({ importStyle: 'css' })],
    }),
    firstScreenUnder(FIRST_SCREEN),
  ],
  server: {
    port: 5173,
    proxy: { '/api': { target: 'http://127.0.0.1:4870', ws: true, headers: { origin: 'http://127.0.0.1:4870' } } },
  },
  build: {
    target: 'es2022',
    outDir: 'dist',
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    // The frame and the first screen are one file, with nothing in it that only other pages need. What several pages share
    // comes in a few more: a page of a hundred and fifty small ones waits for their number.
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'frame', tags: ['$initial'] },
            { name: 'core', test: /\/core\/src\//, minShareCount: 6 },
            { name: 'records', test: /\/records\/src\/(?!files\/)/, minShareCount: 6 },
            { name: 'controls', test: /element-plus|@element-plus|@vueuse|@floating-ui|@popperjs/, minShareCount: 6 },
            { name: 'shared', test: /\/web\/src\//, minShareCount: 6 },
          ],
        },
      },
    },
  },
});
