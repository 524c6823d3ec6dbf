import { styled } from '@mui/material/styles';
import { useEffect, useRef, type ReactNode, type RefObject } from 'react';

/** Whether a mark of a finding means a part of a drawing: the part itself, or
    a whole it belongs to; * stands for any one name. */
export function means(mark: string, tag: string): boolean {
  const m = mark.split('.');
  const t = tag.split('.');
  return m.length <= t.length && m.every((name, i) => name === '*' || name === t[i]);
}

/** Lights the parts of a drawing that some marks mean. */
export function lightUp(box: Element | null, marks: string[]) {
  box?.querySelectorAll('[data-tag]').forEach((part) => {
    const tag = part.getAttribute('data-tag') ?? '';
    part.classList.toggle(
      'lit',
      marks.some((mark) => means(mark, tag)),
    );
  });
}

/** A drawing with room to spare does not grow beyond readable letters. */
export function useFitted(box: RefObject<HTMLElement | null>, svg: string) {
  useEffect(() => {
    const picture = box.current?.querySelector('svg');
    const letters = Number(picture?.querySelector('text')?.getAttribute('font-size'));
    if (picture && letters > 0) picture.style.maxWidth = `${(picture.viewBox.baseVal.width * 19) / letters}px`;
  }, [box, svg]);
}

/** The part of a drawing that an event is on, by its tag; '' for none. */
export const tagOf = (target: EventTarget) => (target as Element).closest?.('[data-tag]')?.getAttribute('data-tag') ?? '';

/** A drawing's frame: what is drawn, its caption or tabs above, what belongs to it below. */
export const Frame = styled('figure')(({ theme }) => ({
  flex: '1 1 0',
  minWidth: 0,
  minHeight: 0,
  margin: 0,
  padding: '6px 8px 8px',
  display: 'flex',
  flexDirection: 'column',
  '& + &': { borderLeft: `1px dashed ${theme.vars!.palette.divider}` },
  '& figcaption': { fontSize: 12, color: theme.vars!.palette.text.secondary, minHeight: 24, display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 8 },
  [theme.breakpoints.down('md')]: { flex: '1 0 320px', height: 440 },
}));

/** The drawing itself, in the room that is left. */
export const Paper = styled('div')({
  flex: 1,
  minWidth: 0,
  minHeight: 0,
  display: 'flex',
  '& svg': { margin: 'auto', width: '100%', height: '100%' },
});

interface Props {
  svg: string;
  title: string;
  lit: string[]; // marks of the parts to light up
  onPoint?: (tag: string) => void; // '' when nothing is pointed at
  caption: ReactNode;
  panel?: object; // what makes it the panel of tabs
  children?: ReactNode; // below the drawing
}

/** A drawing as the server made it, its parts tied to the findings by tag. */
export function Drawing({ svg, title, lit, onPoint, caption, panel, children }: Props) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => lightUp(box.current, lit), [svg, lit]);
  useFitted(box, svg);
  return (
    <Frame className="drawing" aria-label={title}>
      {caption && <figcaption>{caption}</figcaption>}
      <Paper ref={box} {...panel} onPointerOver={(e) => onPoint?.(tagOf(e.target))} onPointerLeave={() => onPoint?.('')} dangerouslySetInnerHTML={{ __html: svg }} />
      {children}
    </Frame>
  );
}
