import { useEffect, useRef, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';

interface Point {
  x: number;
  y: number;
}

interface Dragging<T> {
  /** What is taken by pressing there; undefined where nothing can be. */
  take: (target: EventTarget, at: Point) => T | undefined;
  /** It is being drawn along: by so many pixels from where it was taken; free while Alt is held. */
  move: (what: T, by: Point, at: Point, free: boolean) => void;
  /** It is let go of: there, or taken back, by Escape or by the browser. */
  drop?: (what: T, there: boolean) => void;
}

const slip = 3; // px that a hand moves while it only presses

/** Dragging by mouse, pen or finger: handlers for the element that things are dragged on. What is
    on it may be replaced meanwhile, since the pointer is captured by the element itself. */
export function useDragging<T>({ take, move, drop }: Dragging<T>, box: RefObject<HTMLElement | null>) {
  const drag = useRef<{ what: T; from: Point; moved: boolean } | null>(null);
  // A finger that drags does not scroll the page. React listens to touches passively.
  useEffect(() => {
    const element = box.current;
    const hold = (e: TouchEvent) => {
      if (drag.current && e.cancelable) e.preventDefault();
    };
    element?.addEventListener('touchstart', hold, { passive: false });
    element?.addEventListener('touchmove', hold, { passive: false });
    return () => {
      element?.removeEventListener('touchstart', hold);
      element?.removeEventListener('touchmove', hold);
    };
  });
  const end = (there: boolean) => {
    const d = drag.current;
    drag.current = null;
    if (d?.moved) drop?.(d.what, there);
  };
  const handlers = {
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      if (e.button !== 0) return;
      const at = { x: e.clientX, y: e.clientY };
      const what = take(e.target, at);
      if (what === undefined) return;
      drag.current = { what, from: at, moved: false };
      e.currentTarget.setPointerCapture(e.pointerId);
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      const d = drag.current;
      if (!d) return;
      const at = { x: e.clientX, y: e.clientY };
      const by = { x: at.x - d.from.x, y: at.y - d.from.y };
      if (!d.moved && Math.hypot(by.x, by.y) < slip) return;
      d.moved = true;
      move(d.what, by, at, e.altKey);
    },
    onPointerUp: () => end(true),
    onPointerCancel: () => end(false),
  };
  /** Whether a drag was going on, and was taken back. */
  const escape = (e: KeyboardEvent) => {
    if (e.key !== 'Escape' || !drag.current) return false;
    end(false);
    return true;
  };
  return { handlers, escape };
}
