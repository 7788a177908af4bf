import { VueQueryPlugin } from '@tanstack/vue-query';
import { mount, type MountingOptions } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import type { Component } from 'vue';
import type { Router } from 'vue-router';

/** A mounted component whose props are read by name. */
export type Mounted = Omit<ReturnType<typeof mount>, 'props'> & { props: (name: string) => unknown };

/** Mounts a component with what every page has around it; with a router where it reads its address. */
export function mounted(component: Component, options: MountingOptions<Record<string, unknown>> = {}, router?: Router) {
  const pinia = createPinia();
  setActivePinia(pinia);
  return mount(
    component as never,
    {
      attachTo: document.body,
      ...options,
      global: {
        plugins: [pinia, VueQueryPlugin, ...(router ? [router] : [])],
        stubs: { RouterLink: { template: '<a><slot /></a>' } },
      },
    } as never,
  ) as Mounted;
}
