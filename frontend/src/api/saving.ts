/** Changes on their way to the server: what is begun with them, a build say, waits for all of them. */

export const NOT_SAVED =
  "Your last change could not be saved, so nothing was done. Open the view where you made it, then try again.";

const onTheirWay = new Set<Promise<unknown>>();
const editors = new Set<() => Promise<boolean>>();

/** Count a change among those that are on their way until it ends. */
export function onItsWay<T>(change: Promise<T>): Promise<T> {
  onTheirWay.add(change);
  const end = () => void onTheirWay.delete(change);
  change.then(end, end);
  return change;
}

/** An open editor that saves a moment after the last change; `saveNow` tells whether nothing is left unsaved. */
export function editing(saveNow: () => Promise<boolean>): () => void {
  editors.add(saveNow);
  return () => void editors.delete(saveNow);
}

/** Save all that is not saved, and wait for what is on its way; false when any of it failed. */
export async function allSaved(): Promise<boolean> {
  const edited = await Promise.all([...editors].map((saveNow) => saveNow()));
  const ended = await Promise.allSettled(onTheirWay);
  return edited.every(Boolean) && ended.every(({ status }) => status === "fulfilled");
}

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
