import { useEffect, useRef, type ReactNode, type RefObject } from 'react';

/** Whether a mark of a finding means a part of a drawing: the part itself, or
    a whole it belongs to; * stands for any one name. */
export function means(mark: string, tag: string): boolean {
  const m = mark.split('.');
  const t = tag.split('.');
  return m.length <= t.length && m.every((name, i) => name === '*' || name === t[i]);
}

/** A drawing with room to spare does not grow beyond readable letters. */
export function useFitted(box: RefObject<HTMLElement | null>, svg: string) {
  useEffect(() => {
    const picture = box.current?.querySelector('svg');
    const letters = Number(picture?.querySelector('text')?.getAttribute('font-size'));
    if (picture && letters > 0) picture.style.maxWidth = `${(picture.viewBox.baseVal.width * 19) / letters}px`;
  }, [box, svg]);
}

interface Props {
  svg: string;
  title: string;
  lit: string[]; // marks of the parts to light up
  onPoint: (tag: string) => void; // '' when nothing is pointed at
  caption: ReactNode;
  children?: ReactNode; // below the drawing
}

/** A drawing as the server made it, its parts tied to the findings by tag. */
export function Drawing({ svg, title, lit, onPoint, caption, children }: Props) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    box.current?.querySelectorAll('[data-tag]').forEach((part) => {
      const tag = part.getAttribute('data-tag') ?? '';
      part.classList.toggle(
        'lit',
        lit.some((mark) => means(mark, tag)),
      );
    });
  }, [svg, lit]);
  useFitted(box, svg);
  return (
    <figure className="drawing" aria-label={title}>
      <figcaption>{caption}</figcaption>
      <div
        ref={box}
        onPointerOver={(e) => onPoint((e.target as Element).closest('[data-tag]')?.getAttribute('data-tag') ?? '')}
        onPointerLeave={() => onPoint('')}
        dangerouslySetInnerHTML={{ __html: svg }}
      />
      {children}
    </figure>
  );
}
