<script setup lang="ts">
import { written } from '@alluvium/core';
import { liftsOf, pickSheet, portOf, setupInForce, type WholeHead, type WholeSession } from '@alluvium/records';
import { computed } from 'vue';
import type { MapBegins } from './mapBegins.js';
import VelocityMaps from './VelocityMaps.vue';

// session.plan.ports[]!, liftsOf().at()!: a plan has one port and one lift at least.

/** Velocity maps of a session, with those its plan asks for. */
const props = defineProps<{ whole: WholeSession; head: WholeHead }>();
const planned = computed(() =>
  props.whole.session.plan.maps.filter(
    (p) => !props.whole.velocityMaps.some((m) => m.place === p.place && Math.abs(m.lift.si - p.lift.si) < 1e-6),
  ),
);
const begins = computed<MapBegins>(() => {
  const { session } = props.whole;
  const { depression } = setupInForce(session);
  const side = session.plan.sides.includes('intake') ? 'intake' : 'exhaust';
  return {
    stageId: session.stageId,
    sessionId: session.id,
    portId: portOf(props.head.ports, side, session.plan.ports[0]!.number)?.id ?? null,
    side,
    lift: written(liftsOf(session.plan).at(-1)!, 'lift', 'mm', 3),
    depression: depression === 'unknown' || depression === null ? '28 inH2O' : depression,
  };
});
const sheet = computed(() => props.whole.sheets[0] ?? pickSheet(props.head, props.whole.session.stageId));
</script>

<template>
  <VelocityMaps :head="head" :maps="whole.velocityMaps" :planned="planned" :begins="begins" :sheet="sheet" />
</template>
