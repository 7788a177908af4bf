import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createRouter, createWebHistory, type Router } from 'vue-router';
import { rememberScroll } from './scrollMemory.js';

/** A frame as long as its page is now. */
const frame = { length: 1000, top: 0 };
const element = Object.defineProperty({}, 'scrollTop', {
  get: () => frame.top,
  set: (top: number) => (frame.top = Math.max(0, Math.min(top, frame.length))),
}) as HTMLElement;
const frames = (n: number) => new Promise((done) => setTimeout(done, n * 20));
let router: Router;
const back = async () => {
  router.back();
  await frames(4);
};

beforeEach(async () => {
  history.replaceState(null, '', '/heads');
  frame.length = 1000;
  frame.top = 0;
  const component = { render: () => null };
  router = createRouter({
    history: createWebHistory(),
    routes: ['/heads', '/head', '/match'].map((path) => ({ path, component })),
  });
  rememberScroll(router, () => element);
  await router.push('/heads');
});
afterEach(() => router.options.history.destroy());

describe('the place on a page', () => {
  it('is where it was by Back, and at the top of a page newly opened', async () => {
    frame.top = 640;
    await router.push('/head');
    expect(frame.top).toBe(0);
    frame.top = 80;
    await router.push('/match');
    await back();
    expect(frame.top).toBe(80);
    await back();
    expect(frame.top).toBe(640);
  });
  it('is waited for while the list is on its way, and left alone by who scrolls meanwhile', async () => {
    frame.top = 900;
    await router.push('/head');
    frame.length = 100;
    await back();
    expect(frame.top).toBe(100);
    frame.length = 1000;
    await frames(4);
    expect(frame.top).toBe(900);
    await router.push('/head');
    frame.length = 100;
    await back();
    frame.top = 10;
    frame.length = 1000;
    await frames(4);
    expect(frame.top).toBe(10);
  });
  it('stays where a pane of the same page is chosen', async () => {
    frame.top = 300;
    await router.push('/heads?pane=sizes');
    expect(frame.top).toBe(300);
  });
});
