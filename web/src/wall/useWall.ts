import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { answer, api, type Request, type Schemas, type Site } from '../api';
import { useWorkspace } from '../state/workspace';
import { drawnBy, useLast, useStateOf } from '../state/judged';
import { settled } from '../state/inputs';
import { useSteady } from '../state/steady';
import { useNotice } from '../shell/notice';
import type { Thing, WallView } from './site';

interface Flight {
  base: Request; // what was asked when the move began
  show: Picture;
  thing: Thing;
  to: { x: number; y: number };
  snap: boolean;
  sent: boolean; // an answer is awaited
  again: boolean; // the thing has moved on meanwhile
  last: WallView | null;
  dropped: boolean;
  mark: string;
}

export type Picture = 'wall' | 'holding' | 'build_up' | 'side';

/** A wall with the drawing that is shown of it. */
const drawnOf = (show: Picture, body: Schemas['WallRequest'], signal?: AbortSignal) => drawnBy([show], (have) => answer(api.POST('/api/wall', { body: { ...body, show, have }, signal })));

/** The wall of the request, and the moves on it: one is on its way at a time,
    and the latest wins. */
export function useWall(request: Request | undefined, show: Picture) {
  const { inputs, ask } = useWorkspace();
  const { last, at, take, errorOf } = useLast<WallView>(['wall', inputs.display, inputs.bracket, inputs.site?.id ?? '']);
  const tell = useNotice();
  const { value: asked, waiting } = useSteady(request);
  const own = useQuery<WallView>({
    queryKey: ['wall', asked, show],
    enabled: asked?.site !== undefined,
    queryFn: ({ signal }) => take(drawnOf(show, { request: asked! }, signal), signal),
    placeholderData: keepPreviousData,
    staleTime: 0,
    gcTime: 20_000, // answers have drawings in them
  });
  const query = { ...own, error: errorOf(own), isPlaceholderData: own.isPlaceholderData || waiting };
  const state = useStateOf(query.error, query.isPlaceholderData || own.isPending, at);
  // What a move has made of it: while it goes on, and then until the request has caught up.
  const [moved, setMoved] = useState<{ view: WallView; site?: Site } | null>(null);
  const caughtUp = !query.isPlaceholderData && !query.isFetching;
  const shown = moved && (moved.site === undefined || (moved.site === inputs.site && !caughtUp)) ? moved.view : undefined;
  const flight = useRef<Flight | null>(null);

  const finish = (f: Flight) => {
    flight.current = null;
    if (!f.last) return setMoved(null);
    let site: Site | undefined;
    ask((a) => {
      const part = settled(a, f.last!.site);
      site = part.site ?? undefined;
      return part;
    }, f.mark);
    setMoved({ view: f.last, site });
  };
  const send = async (f: Flight) => {
    f.sent = true;
    f.again = false;
    const mm = (n: number) => Math.round(n * 1e6) / 1e6;
    try {
      const move = { what: f.thing.what as 'display', index: f.thing.index, x_mm: mm(f.to.x), y_mm: mm(f.to.y), snap: f.snap };
      f.last = await drawnOf(f.show, { request: f.base, move });
      if (flight.current === f) setMoved({ view: f.last });
    } catch (e) {
      if (flight.current === f) tell({ text: (e as Error).message });
    }
    f.sent = false;
    if (flight.current !== f) return;
    if (f.again) void send(f);
    else if (f.dropped) finish(f);
  };

  return {
    ...query,
    state,
    view: shown ?? query.data ?? last,
    settled: shown === undefined && caughtUp,
    /** Moves a thing to a place, or by a way from where it is going. */
    move: (thing: Thing, to: { x: number; y: number }, snap: boolean, by = false) => {
      const f = flight.current;
      if (f && f.thing.tag === thing.tag && !(f.dropped && !by)) {
        f.to = by ? { x: f.to.x + to.x, y: f.to.y + to.y } : to;
        f.snap = snap;
        if (f.sent) f.again = true;
        else void send(f);
        return;
      }
      if (!request) return;
      const place = by ? { x: thing.x_mm + to.x, y: thing.y_mm + to.y } : to;
      const next: Flight = { base: request, show, thing, to: place, snap, sent: false, again: false, last: null, dropped: false, mark: by ? `nudge ${thing.tag}` : '' };
      flight.current = next;
      void send(next);
    },
    drop: (keep: boolean) => {
      const f = flight.current;
      if (!f) return;
      f.dropped = true;
      if (!keep) {
        flight.current = null;
        setMoved(null);
      } else if (!f.sent) finish(f);
    },
  };
}
