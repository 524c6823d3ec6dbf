import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { at } from '../base';
import type { Schemas } from '../api';
import { useMe } from '../people/me';

/** What is asked again when somebody has changed something: all but what a page remembers of its own. */
const own = ['me', 'last'];

/** Looks again whenever somebody has changed something, and says who else is at the same address. A page that is not
    looked at listens to nothing: a browser has six lines to a server, for all of its tabs. */
export function useLive(path: string): string[] {
  const queries = useQueryClient();
  const me = useMe().data;
  const listens = me !== undefined && (me.alone || Boolean(me.id));
  const [here, setHere] = useState<string[]>([]);
  const seen = useRef<number>(undefined);
  useEffect(() => {
    if (!listens) return;
    let lines: EventSource | undefined;
    const listen = () => {
      lines?.close();
      lines = undefined;
      if (document.hidden) return;
      lines = new EventSource(at(`/api/live?path=${encodeURIComponent(path)}`));
      lines.onmessage = (e: MessageEvent<string>) => {
        const now = JSON.parse(e.data) as Schemas['Live'];
        setHere(path === '' ? [] : now.here);
        if (seen.current !== undefined && seen.current !== now.changed) void queries.invalidateQueries({ predicate: (q) => !own.includes(String(q.queryKey[0])) });
        seen.current = now.changed;
      };
      lines.onerror = () => {
        if (lines?.readyState === EventSource.CLOSED) void queries.invalidateQueries({ queryKey: ['me'] }); // no longer let in
      };
    };
    listen();
    document.addEventListener('visibilitychange', listen);
    return () => {
      document.removeEventListener('visibilitychange', listen);
      lines?.close();
      setHere([]);
    };
  }, [path, listens, queries]);
  return here;
}
