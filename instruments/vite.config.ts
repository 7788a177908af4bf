import { defineConfig } from 'vite';

/** Bundles our own packages into one file; what comes from the registry stays outside. */
export default defineConfig({
  build: {
    ssr: 'src/main.ts',
    outDir: 'dist',
    emptyOutDir: true,
    target: 'node20',
    rollupOptions: { output: { entryFileNames: 'main.js' } },
  },
  ssr: { noExternal: [/^@alluvium\//] },
});
