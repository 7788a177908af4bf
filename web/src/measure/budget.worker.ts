import { budgetStations, type Floors, type PlainStation } from '@alluvium/core';

/** Grows every section as far as its walls allow, away from the page. */
self.onmessage = (event: MessageEvent<{ id: number; stations: readonly PlainStation[]; floors: Floors }>) => {
  const { id, stations, floors } = event.data;
  self.postMessage({ id, stations: budgetStations(stations, floors) });
};
