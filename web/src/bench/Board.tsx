import { useState } from 'react';
import type { BenchAnswer } from '../api';
import { useDesk } from '../state/desk';
import { useKeys } from '../state/commands';
import { Drawing } from '../parts/Drawing';

const pictures = [
  ['back', 'Back, from behind'],
  ['side', 'Side'],
  ['above', 'From above'],
] as const;

type Picture = (typeof pictures)[number][0];

const missing: Record<Picture, [string, string]> = {
  back: ['The back cannot be drawn yet.', 'It needs the hole pattern: how far apart the holes are, across and down.'],
  side: ['The side cannot be drawn.', 'It needs the bolts, the bracket’s profile, and the display’s depth and edges.'],
  above: ['There is nothing to swing.', 'The bracket has no swivel, or its reach or the display’s outline is not known.'],
};

/** The drawings: the section, and one of the others. */
export function Board({ judged, lit, onPoint }: { judged: BenchAnswer; lit: string[]; onPoint: (tag: string) => void }) {
  const [only, setOnly] = useState<'' | 'section' | 'other'>('');
  const [picture, setPicture] = useState<Picture>('back');
  useKeys({
    x: () => setOnly(only === '' ? 'section' : only === 'section' ? 'other' : ''),
    m: () => setPicture(pictures[(pictures.findIndex(([p]) => p === picture) + 1) % pictures.length]![0]),
  });
  const larger = (which: 'section' | 'other') => (
    <button type="button" className="press larger" onClick={() => setOnly(only ? '' : which)} title="One drawing or both (x)">
      {only ? 'Both' : 'Larger'}
    </button>
  );
  const tabs = (
    <span className="tabs" role="group" aria-label="Drawing">
      {pictures.map(([p, name]) => (
        <button key={p} type="button" className="tab" aria-pressed={p === picture} data-picture={p} title="The next drawing (m)" onClick={() => setPicture(p)}>
          {name}
        </button>
      ))}
      {larger('other')}
    </span>
  );
  return (
    <>
      {only !== 'other' &&
        (judged.section ? (
          <Drawing svg={judged.section} title="Section through the bolts" caption={<>Section through the bolts {larger('section')}</>} lit={lit} onPoint={onPoint} />
        ) : (
          <NoSection judged={judged} />
        ))}
      {only !== 'section' &&
        (judged[picture] ? (
          <Drawing svg={judged[picture]} title={pictures.find(([p]) => p === picture)![1]} caption={tabs} lit={lit} onPoint={onPoint}>
            {picture === 'side' && <Slider of="tilt" judged={judged} />}
            {picture === 'above' && <Slider of="swivel" judged={judged} />}
          </Drawing>
        ) : (
          <figure className="drawing">
            <figcaption>{tabs}</figcaption>
            <div className="nothing">
              <p>{missing[picture][0]}</p>
              <p>{missing[picture][1]}</p>
            </div>
          </figure>
        ))}
    </>
  );
}

/** Moves the drawing through the bracket's range. */
function Slider({ of, judged }: { of: 'tilt' | 'swivel'; judged: BenchAnswer }) {
  const { asking, ask } = useDesk();
  const b = judged.bracket;
  const [low, high] = of === 'tilt' ? [-(b.tilt_up_deg ?? 0), b.tilt_down_deg ?? 0] : [-(b.swivel_deg ?? 0), b.swivel_deg ?? 0];
  return (
    <div className="slider">
      {low < high && (
        <label>
          {of === 'tilt' ? 'Tilt' : 'Swivel'} {asking[of]}°
          <input type="range" min={low} max={high} step={0.5} value={asking[of]} onChange={(e) => ask({ [of]: Number(e.target.value) }, of)} />
        </label>
      )}
      <p>{judged.motion}</p>
    </div>
  );
}

function NoSection({ judged }: { judged: BenchAnswer }) {
  const stack = judged.pairing.checks.find((c) => c.rule === 'stack');
  return (
    <div className="drawing">
      <div className="nothing">
        <p>
          <b>{stack?.status === 'unknown' ? 'The bolts cannot be chosen yet.' : 'No safe bolts for this pairing.'}</b>
        </p>
        <p>{stack?.text}</p>
        <p>{stack?.remedy}</p>
      </div>
    </div>
  );
}
