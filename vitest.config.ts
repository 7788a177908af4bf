import vue from '@vitejs/plugin-vue';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import Components from 'unplugin-vue-components/vite';
import { defineConfig } from 'vitest/config';

const common = { testTimeout: 30_000, hookTimeout: 60_000 };

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          ...common,
          name: 'node',
          globalSetup: 'server/src/test/snapshot.ts',
          include: ['{core,records,server,instruments,demo,tools}/src/**/*.test.ts'],
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
          include: ['web/src/**/*.test.ts'],
          environment: 'happy-dom',
          server: { deps: { inline: ['element-plus'] } },
        },
      },
    ],
  },
});
