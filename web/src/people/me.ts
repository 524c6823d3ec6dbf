import { useQuery, type QueryClient } from '@tanstack/react-query';
import { speakTo } from '../i18n';
import { lacksWords } from '../words';
import { answer, api, type Schemas } from '../api';
import { belongsTo } from '../state/workspace';

export type Me = Schemas['Me'];

/** Who is signed in here; or that nobody is asked to be. */
export function useMe() {
  return useQuery({ queryKey: ['me'], queryFn: ({ signal }) => look(signal), staleTime: 60_000 });
}

async function look(signal: AbortSignal) {
  const me = await answer(api.GET('/api/me', { signal }));
  if (me.id) belongsTo(String(me.id)); // who is not let in any more, and comes back, finds what they typed
  speakTo(me.language);
  return me;
}

/** May somebody do what takes a role? */
export function may(me: Me | undefined, role: NonNullable<Me['role']>): boolean {
  const order = ['reader', 'engineer', 'approver', 'administrator'];
  return order.indexOf(me?.role ?? '') >= order.indexOf(role);
}

/** Why who is here may not do something, for the title of what they cannot press; undefined: they may. */
export function useLacks(act: string): string | undefined {
  const role = useMe().data?.lacks?.[act];
  return role && lacksWords[role];
}

/** Somebody else is here now: what was answered to others is not theirs. */
export function becomes(queries: QueryClient, me: Me) {
  if (belongsTo(String(me.id ?? ''))) return; // the page is loaded anew
  queries.removeQueries({ predicate: (q) => q.queryKey[0] !== 'me' });
  queries.setQueryData(['me'], me);
  speakTo(me.language);
}
