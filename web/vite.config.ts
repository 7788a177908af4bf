import vue from '@vitejs/plugin-vue';
import Components from 'unplugin-vue-components/vite';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [
    vue(),
    Components({
      dts: 'src/components.generated.d.ts',
      dirs: [],
      resolvers: [ElementPlusResolver({ importStyle: 'css' })],
    }),
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
    // What several pages share comes in a few files: a page of a hundred and fifty small ones waits for their number.
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
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
