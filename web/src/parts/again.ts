import { lazy, type ComponentType } from 'react';
import { at } from '../base';
/** The error of a view that could not be loaded: nothing of it is wrong but that it is not here. */
export class Unloaded extends Error {}

const mark = 'nexufix.again';
const soon = 20_000; // ms: what failed just now, and was loaded again, fails for another reason

/** Loads the page again where the server answers, once in a while; false where that would not help. */
export async function loadedAgain(): Promise<boolean> {
  let last: number;
  try {
    last = Number(sessionStorage.getItem(mark) ?? 0);
    sessionStorage.setItem(mark, String(Date.now()));
  } catch {
    return false; // a browser that keeps nothing would do it for ever
  }
  if (Date.now() - last < soon || !(await answers())) return false;
  window.location.reload();
  return true;
}

/** Whether the server can be reached. */
export const answers = () =>
  fetch(at('/healthz'), { cache: 'no-store' }).then(
    (r) => r.ok,
    () => false,
  );

/** A view, loaded when it is first gone to. One that is not there any more is of an older program: the page is loaded
    again, with its address and what was typed. */
export const screen = <P extends object>(load: () => Promise<ComponentType<P>>) =>
  lazy(() =>
    load()
      .then((it) => ({ default: it }))
      .catch(async () => {
        if (await loadedAgain()) return new Promise<never>(() => {}); // it is going
        throw new Unloaded();
      }),
  );
