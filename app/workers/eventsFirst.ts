const { port1, port2 } = new MessageChannel();
const waiting: (() => void)[] = [];
port1.onmessage = () => waiting.shift()?.();

/**
 * Lets what has happened meanwhile be handled first. A decoder begins its next frame on its own thread only once this thread has heard
 * that the last one is done: who computes straight away when a frame comes keeps both from going on at once.
 */
export const eventsFirst = (): Promise<void> =>
  new Promise((go) => {
    waiting.push(go);
    port2.postMessage(null);
  });
