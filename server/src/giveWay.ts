/** Gives way to whoever waits: a request that came in meanwhile is served before the work goes on. */
export const giveWay = () => new Promise<void>((go) => setImmediate(go));
