import { t } from '@lingui/core/macro';
import { styled } from '@mui/material/styles';
import { useEffect, useRef } from 'react';
import { Paper, tagOf } from '../parts/Drawing';
import { useDragging } from '../parts/dragging';
import type { Units } from '../state/units';
import type { Thing, WallView } from './site';

interface Place {
  x: number; // mm from the wall's left end
  y: number; // mm from the floor
}

interface Props {
  view: WallView;
  panel: object; // what makes it the panel of tabs
  units: Units;
  lit: string[];
  /** Moves a thing; the picture follows. */
  onMove: (thing: Thing, to: Place, snap: boolean) => void;
  /** Moves it by a way. */
  onNudge: (thing: Thing, by: Place) => void;
  /** The move is over: it is to be saved, or taken back. */
  onDrop: (there: boolean) => void;
  onRemove: (thing: Thing) => void;
}

const Wall = styled(Paper)({ userSelect: 'none' });

/** The wall, worked on directly: what is on it is dragged, or focused and moved
    with the arrow keys. Where things then are is computed by the server. */
export function WallPicture({ view, panel, units, lit, onMove, onNudge, onDrop, onRemove }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const held = useRef(''); // tag of what has the keyboard

  useEffect(() => {
    const tags = new Map(view.movable.map((t) => [t.tag, t]));
    const done = new Set<string>();
    box.current?.querySelector('svg')?.setAttribute('role', 'group'); // of things, not one picture
    box.current?.querySelectorAll<SVGElement>('[data-tag]').forEach((part) => {
      const tag = part.getAttribute('data-tag')!;
      const thing = tags.get(tag);
      part.classList.toggle(
        'lit',
        lit.some((m) => tag === m || tag.startsWith(m + '.')),
      );
      if (!thing) return;
      part.classList.add('movable');
      if (done.has(tag) || part.tagName === 'text') return;
      done.add(tag);
      part.setAttribute('tabindex', '0');
      part.setAttribute('role', 'button');
      part.setAttribute('aria-label', t`${thing.name}. Arrow keys move it.`);
      // The new picture has no memory of it: nothing else has taken the keyboard.
      if (tag === held.current && document.activeElement === document.body) part.focus({ preventScroll: true });
    });
  }, [view, lit]);

  const at = (e: Place): Place => {
    const svg = box.current!.querySelector('svg')!;
    const p = new DOMPoint(e.x, e.y).matrixTransform(svg.getScreenCTM()!.inverse());
    return { x: view.left_mm + p.x, y: view.top_mm - p.y };
  };
  const thingOf = (target: EventTarget): Thing | undefined => {
    const tag = tagOf(target);
    return view.movable.find((t) => t.tag === tag);
  };
  const { escape, handlers } = useDragging<{ thing: Thing; from: Place }>(
    {
      take: (target, point) => {
        const thing = thingOf(target);
        if (!thing) return undefined;
        held.current = thing.tag;
        return { thing, from: at(point) };
      },
      move: ({ thing, from }, _, point, free) => {
        const now = at(point);
        onMove(thing, { x: thing.x_mm + now.x - from.x, y: thing.y_mm + now.y - from.y }, !free);
      },
      drop: (_, there) => onDrop(there),
    },
    box,
  );
  return (
    <Wall
      ref={box}
      className="wall-picture"
      {...panel}
      {...handlers}
      onFocus={(e) => {
        held.current = thingOf(e.target)?.tag ?? '';
      }}
      onBlur={(e) => {
        if (e.relatedTarget) held.current = '';
      }}
      onKeyDown={(e) => {
        if (escape(e)) return;
        const thing = thingOf(e.target);
        if (!thing) return;
        if (e.key === 'Delete') {
          e.preventDefault();
          onRemove(thing);
          return;
        }
        const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
        if (!way) return;
        e.preventDefault();
        const step = (units === 'mm' ? 1 : 25.4 / 16) * (e.shiftKey ? 10 : 1);
        onNudge(thing, { x: way[0]! * step, y: way[1]! * step });
      }}
      dangerouslySetInnerHTML={{ __html: view.wall }}
    />
  );
}
