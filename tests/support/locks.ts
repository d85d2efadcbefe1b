type Work = (lock: object | null) => unknown;

/** Locks as a browser has them, one after the other; Node has none. */
export function nodeLocks(): { request: (name: string, ...rest: unknown[]) => Promise<unknown> } {
  const tails = new Map<string, Promise<unknown>>();
  return {
    request: async (name, ...rest) => {
      const work = rest.at(-1) as Work;
      const options = rest.length > 1 ? (rest[0] as { ifAvailable?: boolean }) : {};
      if (options.ifAvailable && tails.has(name)) return work(null);
      const before = tails.get(name) ?? Promise.resolve();
      const own = before.then(() => work({ name }));
      const done = own.then(
        () => undefined,
        () => undefined,
      );
      tails.set(name, done);
      return own.finally(() => {
        if (tails.get(name) === done) tails.delete(name);
      });
    },
  };
}
