import { t } from '@lingui/core/macro';
import Popover from '@mui/material/Popover';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { Frame, lightUp, Paper, tagOf, useFitted } from '../parts/Drawing';
import { useDragging } from '../parts/dragging';
import { selectAll } from '../parts/QuantityField';
import type { Acts } from './editing';
import { Field } from './Field';

interface Props {
  of: Acts;
  svg: string;
  title: string;
  caption: string;
  at: string; // path of the figure that has the keyboard
  /** The figure that a part of the drawing shows: its path and what it is called. */
  figureOf: (tag: string) => [path: string, label: string] | undefined;
  /** The part of the drawing that a figure is shown by. */
  tagFor: (path: string) => string;
  zones?: ZoneMoves;
}

/** What is moved about on the drawing. */
export interface ZoneMoves {
  place: (n: number) => [x: number, y: number];
  move: (n: number, x: number, y: number) => void;
}

/** A drawing of what is edited. A part or a dimension is pressed, its figure typed there, and
    Enter or Escape leads back; zones are dragged, or moved with the arrow keys. */
export function Editable({ of, svg, title, caption, at, figureOf, tagFor, zones }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [typing, setTyping] = useState<{ path: string; label: string; x: number; y: number }>();
  useEffect(() => lightUp(box.current, at && tagFor(at) ? [tagFor(at)] : []), [svg, at, tagFor]);
  useFitted(box, svg);
  const dragged = useZones(box, svg, zones);
  return (
    <Frame className="drawing" aria-label={title} sx={{ bgcolor: 'background.paper', '& [data-tag]': { cursor: 'pointer' }, '& [data-tag^="zone."]': { cursor: 'move' } }}>
      <figcaption>{caption}</figcaption>
      <Paper
        ref={box}
        {...dragged}
        onClick={(e) => {
          const figure = figureOf(tagOf(e.target));
          if (figure) setTyping({ path: figure[0], label: figure[1], x: e.clientX, y: e.clientY });
        }}
        dangerouslySetInnerHTML={{ __html: svg }}
      />
      <Popover
        open={typing !== undefined}
        onClose={() => setTyping(undefined)}
        anchorReference="anchorPosition"
        anchorPosition={typing && { left: typing.x, top: typing.y + 8 }}
        transformOrigin={{ horizontal: 'center', vertical: 'top' }}
        slotProps={{ paper: { sx: { p: 2.5, width: 210 } } }}
      >
        {typing && (
          <form
            className="on-drawing"
            onSubmit={(e) => {
              e.preventDefault();
              setTyping(undefined);
            }}
          >
            {typing.label}
            <Field of={of} path={typing.path} label={t`${typing.label}, on the drawing`} autoFocus onFocus={selectAll} />
          </form>
        )}
      </Popover>
    </Frame>
  );
}

/** Zones of the drawing: each takes the keyboard, one stop for all its parts. */
function useZones(box: RefObject<HTMLDivElement | null>, svg: string, zones?: ZoneMoves) {
  const held = useRef(''); // tag of the zone that has the keyboard
  useEffect(() => {
    if (!zones) return;
    const seen = new Set<string>();
    box.current?.querySelector('svg')?.setAttribute('role', 'group'); // a picture has no parts that take the keyboard
    box.current?.querySelectorAll('[data-tag^="zone."]').forEach((part) => {
      const tag = part.getAttribute('data-tag')!;
      part.classList.add('movable');
      if (seen.has(tag)) return;
      seen.add(tag);
      part.setAttribute('tabindex', '0');
      part.setAttribute('role', 'button');
      part.setAttribute('aria-label', t`Zone ${Number(tag.slice(5)) + 1}: drag it, or move it with the arrow keys`);
      // A new picture has no memory of it, unless something else has taken the keyboard.
      if (tag === held.current && document.activeElement === document.body) (part as SVGElement).focus({ preventScroll: true });
    });
  }, [box, svg, zones]);
  const zoneOf = (target: EventTarget) => {
    const tag = tagOf(target);
    return zones && tag.startsWith('zone.') ? Number(tag.slice(5)) : undefined;
  };
  const { escape, handlers } = useDragging<{ zone: number; x: number; y: number; scale: number }>(
    {
      take: (target) => {
        const zone = zoneOf(target);
        const picture = box.current?.querySelector('svg');
        if (zone === undefined || !picture) return undefined;
        const [x, y] = zones!.place(zone);
        return { zone, x, y, scale: picture.viewBox.baseVal.width / picture.getBoundingClientRect().width };
      },
      // Seen from behind: to the right on the screen is to the left.
      move: (d, by) => zones!.move(d.zone, Math.round(d.x - by.x * d.scale), Math.round(d.y - by.y * d.scale)),
      drop: (d, there) => there || zones!.move(d.zone, d.x, d.y),
    },
    box,
  );
  return {
    ...handlers,
    onKeyDown: (e: React.KeyboardEvent) => {
      if (escape(e)) return;
      const zone = zoneOf(e.target);
      const step = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
      if (zone === undefined || !step) return;
      e.preventDefault();
      const [x, y] = zones!.place(zone);
      const by = e.shiftKey ? 10 : 1;
      zones!.move(zone, x + step[0]! * by, y + step[1]! * by);
    },
    onFocus: (e: React.FocusEvent) => {
      const zone = zoneOf(e.target);
      held.current = zone === undefined ? '' : `zone.${zone}`;
    },
    onBlur: (e: React.FocusEvent) => {
      if (e.relatedTarget) held.current = '';
    },
  };
}
