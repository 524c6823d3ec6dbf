import { useEffect, useRef } from 'react';
import type { Units } from '../state/units';
import type { Thing, WallView } from './site';

interface Place {
  x: number; // mm from the wall's left end
  y: number; // mm from the floor
}

interface Props {
  view: WallView;
  units: Units;
  lit: string[];
  /** Moves a thing; the picture follows. */
  onMove: (thing: Thing, to: Place, snap: boolean) => void;
  /** Moves it by a way. */
  onNudge: (thing: Thing, by: Place) => void;
  /** The move is over: it is to be saved, or taken back. */
  onDrop: (keep: boolean) => void;
  onRemove: (thing: Thing) => void;
}

/** The wall, worked on directly: what is on it is dragged, or focused and moved
    with the arrow keys. Where things then are is computed by the server. */
export function WallPicture({ view, units, lit, onMove, onNudge, onDrop, onRemove }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const drag = useRef<{ thing: Thing; from: Place; moved: boolean } | null>(null);
  const held = useRef(''); // tag of what has the keyboard

  useEffect(() => {
    const tags = new Map(view.things.map((t) => [t.tag, t]));
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
      part.setAttribute('aria-label', `${thing.name}. Arrow keys move it.`);
      // The new picture has no memory of it: nothing else has taken the keyboard.
      if (tag === held.current && document.activeElement === document.body) part.focus({ preventScroll: true });
    });
  }, [view, lit]);

  const at = (e: { clientX: number; clientY: number }): Place => {
    const svg = box.current!.querySelector('svg')!;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
    return { x: view.left_mm + p.x, y: view.top_mm - p.y };
  };
  const thingOf = (target: EventTarget): Thing | undefined => {
    const tag = (target as Element).closest?.('[data-tag]')?.getAttribute('data-tag');
    return view.things.find((t) => t.tag === tag);
  };
  return (
    <div
      ref={box}
      className="wall-picture"
      onPointerDown={(e) => {
        const thing = e.button === 0 ? thingOf(e.target) : undefined;
        if (!thing) return;
        drag.current = { thing, from: at(e), moved: false };
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = thing.tag;
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d) return;
        const now = at(e);
        const by = { x: now.x - d.from.x, y: now.y - d.from.y };
        if (!d.moved && Math.hypot(by.x, by.y) < 8) return;
        d.moved = true;
        onMove(d.thing, { x: d.thing.x_mm + by.x, y: d.thing.y_mm + by.y }, !e.altKey);
      }}
      onPointerUp={() => {
        if (drag.current?.moved) onDrop(true);
        drag.current = null;
      }}
      onPointerCancel={() => {
        if (drag.current?.moved) onDrop(false);
        drag.current = null;
      }}
      onFocus={(e) => {
        held.current = thingOf(e.target)?.tag ?? '';
      }}
      onBlur={(e) => {
        if (e.relatedTarget) held.current = '';
      }}
      onKeyDown={(e) => {
        if (e.key === 'Escape' && drag.current) {
          if (drag.current.moved) onDrop(false);
          drag.current = null;
          return;
        }
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
