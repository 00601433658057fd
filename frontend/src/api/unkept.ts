/** What a person changed and the server does not have yet: one queue of saves for each object. */

import { editing, onItsWay } from "./saving";

type State<Value> = { value?: Value; problem?: Error };
export type Unkept<Value> = ReturnType<typeof newUnkept<Value>>;

/**
 * What a person made of one object and the server does not have yet, also once its view is left: sent in turn, and held
 * until it is kept or dropped. `send` is told whether it sends the last change.
 */
export function newUnkept<Value>(send: (value: Value, isLast: () => boolean) => Promise<void>) {
  let state: State<Value> = {};
  let running: Promise<unknown> = Promise.resolve();
  const hearers = new Set<() => void>();
  const become = (next: State<Value>) => {
    state = next;
    for (const hear of hearers) hear();
  };
  const sendLatest = async () => {
    const { value } = state;
    if (value === undefined) return; // one before took it along
    try {
      await send(value, () => state.value === value);
    } catch (problem) {
      become({ ...state, problem: problem as Error });
      throw problem;
    }
    if (state.value === value) become({});
  };
  const retry = () => {
    const sent = running.then(sendLatest);
    running = sent.catch(() => undefined);
    void onItsWay(sent).catch(() => undefined); // told beside what was changed
  };
  editing(() => running.then(() => state.value === undefined));
  return {
    state: () => state,
    subscribe: (hear: () => void) => {
      hearers.add(hear);
      return () => void hearers.delete(hear);
    },
    change: (value: Value) => {
      become({ ...state, value });
      retry();
    },
    retry,
    drop: () => become({}),
  };
}
