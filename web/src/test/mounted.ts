import { VueQueryPlugin } from '@tanstack/vue-query';
import { mount, type MountingOptions } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import type { Component } from 'vue';

/** Mounts a component with what every page has around it. */
export function mounted(component: Component, options: MountingOptions<Record<string, unknown>> = {}) {
  const pinia = createPinia();
  setActivePinia(pinia);
  return mount(
    component as never,
    {
      attachTo: document.body,
      ...options,
      global: { plugins: [pinia, VueQueryPlugin], stubs: { RouterLink: { template: '<a><slot /></a>' } } },
    } as never,
  ) as ReturnType<typeof mount>;
}
