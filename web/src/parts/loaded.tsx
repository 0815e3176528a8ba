import { type ComponentType, useEffect, useState } from "react";

type Load<P> = () => Promise<{ default: ComponentType<P> }>;
export type Loaded<P> = ComponentType<P> & { load: () => Promise<unknown> };

/** A component whose code is fetched when it is first drawn, or before by `load`. It is drawn as soon as the code
 * is there: React's own lazy holds back what follows an empty boundary for 300 ms. A fetch that fails is thrown to
 * the region around it, and tried again when that is drawn again. */
export function loaded<P extends object>(fetch: Load<P>): Loaded<P> {
  let known: ComponentType<P> | null = null;
  let asked: Promise<unknown> | null = null;
  const load = () => {
    asked ??= fetch().then(
      (module) => {
        known = module.default;
      },
      (error) => {
        asked = null;
        throw error;
      },
    );
    return asked;
  };
  // biome-ignore lint/correctness/noComponentHookFactories: made once for each module that calls this at its top
  function Later(props: P) {
    const [, came] = useState(known !== null);
    const [failed, fail] = useState<{ error: unknown } | null>(null);
    useEffect(() => {
      if (!known)
        load().then(
          () => came(true),
          (error: unknown) => fail({ error }),
        );
    }, []);
    if (failed) throw failed.error;
    const Known = known;
    return Known ? <Known {...props} /> : null;
  }
  return Object.assign(Later, { load });
}
