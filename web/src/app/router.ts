import { createRouter, createWebHistory, type RouteLocationNormalized } from 'vue-router';
import ShopPage from '../shop/ShopPage.vue';

/** Pages of one head, whose id stands in their address. */
export const HEAD_PAGES: ReadonlySet<string> = new Set([
  'head',
  'arrival',
  'defects',
  'measure',
  'bench',
  'claims',
  'change',
]);
/** The steps of the work in their order; a step not built yet is not shown. */
export const STEPS = [
  { name: 'target', title: 'Target', needsBuild: true },
  { name: 'heads', title: 'Heads', needsBuild: false },
  { name: 'arrival', title: 'Arrival', needsBuild: false },
  { name: 'measure', title: 'Measure', needsBuild: false },
  { name: 'bench', title: 'Bench', needsBuild: false },
  { name: 'compare', title: 'Compare', needsBuild: true },
  { name: 'claims', title: 'Claims', needsBuild: false },
  { name: 'match', title: 'Match', needsBuild: true },
  { name: 'simulate', title: 'Simulate', needsBuild: true },
  { name: 'change', title: 'Change', needsBuild: false },
  { name: 'decide', title: 'Decide', needsBuild: true },
  { name: 'dyno', title: 'Dyno', needsBuild: true },
] as const;

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    // The first screen comes with the frame: no second round of files is waited for.
    { path: '/', name: 'shop', component: ShopPage, meta: { title: 'The shop' } },
    { path: '/target', name: 'target', component: () => import('../target/TargetPage.vue'), meta: { title: 'Target' } },
    { path: '/heads', name: 'heads', component: () => import('../heads/HeadsPage.vue'), meta: { title: 'Heads' } },
    {
      path: '/heads/:id',
      name: 'head',
      component: () => import('../heads/HeadPage.vue'),
      props: true,
      meta: { title: 'Head', step: 'heads' },
    },
    {
      path: '/arrival/:id?',
      name: 'arrival',
      component: () => import('../arrival/ArrivalPage.vue'),
      props: true,
      meta: { title: 'Arrival' },
    },
    {
      path: '/arrival/:id/defects',
      name: 'defects',
      component: () => import('../arrival/DefectsPage.vue'),
      props: true,
      meta: { title: 'Defects', step: 'arrival' },
    },
    {
      path: '/measure/:id?',
      name: 'measure',
      component: () => import('../measure/MeasurePage.vue'),
      props: true,
      meta: { title: 'Measure' },
    },
    {
      path: '/bench/session/:id',
      name: 'session',
      component: () => import('../bench/SessionPage.vue'),
      props: true,
      meta: { title: 'Bench session', step: 'bench' },
    },
    {
      path: '/bench/:id?',
      name: 'bench',
      component: () => import('../bench/BenchPage.vue'),
      props: true,
      meta: { title: 'Bench' },
    },
    {
      path: '/compare',
      name: 'compare',
      component: () => import('../compare/ComparePage.vue'),
      meta: { title: 'Compare' },
    },
    {
      path: '/claims/:id?',
      name: 'claims',
      component: () => import('../claims/ClaimsPage.vue'),
      props: true,
      meta: { title: 'Claims' },
    },
    { path: '/match', name: 'match', component: () => import('../match/MatchPage.vue'), meta: { title: 'Match' } },
    {
      path: '/simulate',
      name: 'simulate',
      component: () => import('../simulation/SimulationPage.vue'),
      meta: { title: 'Simulate' },
    },
    {
      path: '/change/:id?',
      name: 'change',
      component: () => import('../change/ChangePage.vue'),
      props: true,
      meta: { title: 'Change' },
    },
    {
      path: '/decide',
      name: 'decide',
      component: () => import('../decide/DecidePage.vue'),
      meta: { title: 'Decide' },
    },
    {
      path: '/decide/report',
      name: 'report',
      component: () => import('../decide/ReportPage.vue'),
      meta: { title: 'Report', step: 'decide', ownPaper: true },
    },
    {
      path: '/practice',
      name: 'practice',
      component: () => import('../practice/PracticePage.vue'),
      meta: { title: 'The trained eye', step: 'dyno' },
    },
    { path: '/dyno', name: 'dyno', component: () => import('../dyno/DynoPage.vue'), meta: { title: 'Dyno' } },
    {
      path: '/guide',
      name: 'guide',
      component: () => import('../help/GuidePage.vue'),
      meta: { title: 'Guide' },
    },
    {
      path: '/settings',
      name: 'settings',
      component: () => import('../help/SettingsPage.vue'),
      meta: { title: 'Settings' },
    },
    {
      path: '/backups',
      name: 'backups',
      component: () => import('../care/BackupsPage.vue'),
      meta: { title: 'Backups' },
    },
    {
      path: '/:rest(.*)*',
      name: 'nowhere',
      component: () => import('./NowherePage.vue'),
      meta: { title: 'Nothing here' },
    },
  ],
});

/** The step of the work a page belongs to; its own name where it belongs to none. */
export const stepOf = (route: Pick<RouteLocationNormalized, 'meta' | 'name'>): string =>
  String(route.meta.step ?? route.name);
/** The guide, open at the chapter of a page. */
export const guideAt = (route: Pick<RouteLocationNormalized, 'meta' | 'name'>) => ({
  name: 'guide',
  query: { chapter: stepOf(route) },
});

router.afterEach((to) => {
  document.title = `${String(to.meta.title)} · Alluvium`;
});
