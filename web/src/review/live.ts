import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Schemas } from '../api';
import { useMe } from '../people/me';

/** What others change while one looks. */
const shared = ['review', 'people', 'own', 'tokens', 'audit'];

/** Looks again whenever somebody has changed something, and says who else is at the same address. */
export function useLive(path: string): string[] {
  const queries = useQueryClient();
  const me = useMe().data?.id;
  const [here, setHere] = useState<string[]>([]);
  useEffect(() => {
    if (!me) return;
    let seen: number | undefined;
    const lines = new EventSource(`/api/live?path=${encodeURIComponent(path)}`);
    lines.onmessage = (e: MessageEvent<string>) => {
      const now = JSON.parse(e.data) as Schemas['Live'];
      setHere(now.here);
      if (seen !== undefined && seen !== now.changed) void queries.invalidateQueries({ predicate: (q) => shared.includes(String(q.queryKey[0])) });
      seen = now.changed;
    };
    lines.onerror = () => {
      if (lines.readyState === EventSource.CLOSED) void queries.invalidateQueries({ queryKey: ['me'] }); // no longer let in
    };
    return () => {
      lines.close();
      setHere([]);
    };
  }, [path, me, queries]);
  return here;
}
