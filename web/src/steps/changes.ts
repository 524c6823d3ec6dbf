import type { Schemas, Site } from '../api';
import { ask } from '../state/workspace';

export type Change = Schemas['StepChange'];

/** Changes the list of changes of the job that is on the wall. */
export function change(make: (all: Change[]) => Change[]) {
  ask((a) => {
    if (!a.site) return {};
    const site: Site = structuredClone(a.site);
    const next = make(site.step_changes ?? []);
    if (next.length > 0) site.step_changes = next;
    else delete site.step_changes;
    return { site };
  });
}
