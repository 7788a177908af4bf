import { defineConfig } from 'vite';

/** Bundles our own packages into one file; what comes from the registry stays outside. */
export default defineConfig({
  build: {
    ssr: true,
    outDir: 'dist',
    emptyOutDir: true,
    target: 'node20',
    rollupOptions: {
      input: {
        main: 'src/main.ts',
        makeFirst: 'src/makeFirst.ts',
        readerThread: 'src/bundle/readerThread.ts',
        reportThread: 'src/report/reportThread.ts',
      },
      output: { entryFileNames: '[name].js', chunkFileNames: '[name].js' },
    },
  },
  ssr: { noExternal: [/^@alluvium\//] },
});
