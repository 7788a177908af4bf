import { HEAD_KINDS, HEAD_SORTS, MATERIALS, type HeadQuery } from '@alluvium/records';
import { refDebounced } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router';
import { useLibrary } from '../data/queries.js';

/** Heads on one page of the list. */
export const SIZE = 50;

/** What is searched for in the library, kept in the address, and the page of heads that answers. */
export function useHeadSearch() {
  const route = useRoute();
  const router = useRouter();
  const search = ref(typeof route.query.search === 'string' ? route.query.search : '');
  const settled = refDebounced(search, 200);
  const page = ref(Number(route.query.page) || 1);
  const from = <T extends string>(key: string, list: readonly T[]) =>
    list.includes(route.query[key] as T) ? (route.query[key] as T) : '';
  const kind = ref<(typeof HEAD_KINDS)[number] | ''>(from('kind', HEAD_KINDS));
  const material = ref<(typeof MATERIALS)[number] | ''>(from('material', MATERIALS));
  const sort = ref<HeadQuery['sort']>(from('sort', HEAD_SORTS) || 'name');
  const tag = ref(typeof route.query.tag === 'string' ? route.query.tag : '');
  const archived = ref<HeadQuery['archived']>(route.query.archived === 'only' ? 'only' : 'no');
  watch([settled, kind, material, sort, tag, archived], () => (page.value = 1));
  // A search that settles while another page is being opened must not call the user back.
  let leaving = false;
  onBeforeRouteLeave(() => void (leaving = true));
  watch([settled, kind, material, sort, tag, archived, page], () => {
    if (leaving) return;
    const query = {
      search: settled.value,
      kind: kind.value,
      material: material.value,
      tag: tag.value,
      archived: archived.value === 'only' ? 'only' : '',
      sort: sort.value === 'name' ? '' : sort.value,
      page: page.value > 1 ? String(page.value) : '',
    };
    void router.replace({ query: Object.fromEntries(Object.entries(query).filter(([, v]) => v)) });
  });
  const query = useLibrary(() => ({
    search: settled.value,
    kind: kind.value || undefined,
    material: material.value || undefined,
    tag: tag.value || undefined,
    archived: archived.value,
    sort: sort.value,
    page: page.value,
    size: SIZE,
  }));
  const filtered = computed(
    () =>
      settled.value !== '' ||
      kind.value !== '' ||
      material.value !== '' ||
      tag.value !== '' ||
      archived.value === 'only',
  );
  function showAll(): void {
    search.value = kind.value = material.value = tag.value = '';
    archived.value = 'no';
  }
  return { search, kind, material, sort, tag, archived, page, filtered, showAll, query };
}
export type HeadSearch = ReturnType<typeof useHeadSearch>;
