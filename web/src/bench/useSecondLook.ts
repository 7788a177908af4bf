import type { Side } from '@alluvium/core';
import type { WholeHead, WholeSession } from '@alluvium/records';
import { computed, type ComputedRef, type Ref } from 'vue';
import { useFamily } from '../data/family.js';
import { useSettings } from '../state/settings.js';
import { resultInHand, secondLookAt } from './runContext.js';

/** What is asked of the port that is being read: against its call, its sisters, and the library's heads like it. */
export function useSecondLook(
  session: Readonly<Ref<WholeSession>>,
  page: { readonly head: WholeHead },
  number: () => number | undefined,
  side: Readonly<Ref<Side>>,
): ComputedRef<string> {
  const settings = useSettings();
  const inHand = computed(() => resultInHand(session.value, page.head, number()));
  const family = useFamily(
    () => page.head.head.class,
    () => inHand.value?.sheet,
    () => inHand.value?.result,
  );
  return computed(() => secondLookAt(session.value, page.head, number(), side.value, settings.say, family.value));
}
