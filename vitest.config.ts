import vue from '@vitejs/plugin-vue';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import Components from 'unplugin-vue-components/vite';
import { defineConfig } from 'vitest/config';
import { BRIEF, NURSERY } from './tools/src/setup.mjs';

// Only what hangs runs into these: a machine may be slow, and two workers share it with the check.
// No file keeps state another one reads, so that those of a worker share what they import.
const common = { testTimeout: 120_000, hookTimeout: 120_000, isolate: false };

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        test: { ...common, name: 'pure', execArgv: [NURSERY], include: ['{core,records}/src/**/*.test.ts'] },
      },
      {
        test: {
          ...common,
          name: 'node',
          // The proof runs long enough for optimized code to pay.
          execArgv: process.env.PROOF ? [NURSERY] : [NURSERY, BRIEF],
          globalSetup: 'server/src/test/snapshot.ts',
          include: ['{server,instruments,demo,tools}/src/**/*.test.ts', 'web/build/*.test.ts'],
        },
      },
      {
        plugins: [
          vue(),
          Components({ dts: false, dirs: [], resolvers: [ElementPlusResolver({ importStyle: false })] }),
        ],
        test: {
          ...common,
          name: 'web',
          execArgv: [NURSERY],
          include: ['web/src/**/*.test.ts'],
          environment: 'happy-dom',
          server: { deps: { inline: ['element-plus'] } },
          deps: { optimizer: { client: { enabled: true, include: ['element-plus', 'element-plus/es'] } } },
        },
      },
    ],
  },
});
