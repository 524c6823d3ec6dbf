import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import MuiSlider from '@mui/material/Slider';
import { memo, useId } from 'react';
import type { BenchAnswer } from '../api';
import { Drawing, Frame } from '../parts/Drawing';
import { Nothing } from '../parts/Page';
import { Press } from '../parts/Press';
import { panelOf, Tabs } from '../parts/Tabs';
import { useCommands } from '../state/commands';
import { useWorkspace, useTab } from '../state/workspace';

const pictures = [
  ['back', t`Back, from behind`, t`The next drawing (m)`],
  ['side', t`Side`, t`The next drawing (m)`],
  ['above', t`From above`, t`The next drawing (m)`],
] as const;

type Picture = (typeof pictures)[number][0];

const missing: Record<Picture, [string, string]> = {
  back: [t`The back cannot be drawn yet.`, t`It needs the hole pattern: how far apart the holes are, across and down.`],
  side: [t`The side cannot be drawn.`, t`It needs the bolts, the bracket’s profile, and the display’s depth and edges.`],
  above: [t`There is nothing to swing.`, t`The bracket has no swivel, or its reach or the display’s outline is not known.`],
};

/** The drawings: the section, and one of the others. */
export const Board = memo(function Board({ judged, lit, onPoint }: { judged: BenchAnswer; lit: string[]; onPoint: (tag: string) => void }) {
  const [only, setOnly] = useTab('larger', ['both', 'section', 'other']);
  const [picture, setPicture] = useTab<Picture>('drawing', ['back', 'side', 'above']);
  useCommands(t`Drawings`, [
    { key: '+', does: t`one drawing larger, or both`, run: () => setOnly(only === 'both' ? 'section' : only === 'section' ? 'other' : 'both') },
    { key: 'm', does: t`back, side, from above`, run: () => setPicture(pictures[(pictures.findIndex(([p]) => p === picture) + 1) % pictures.length]![0]) },
  ]);
  const larger = (which: 'section' | 'other') => (
    <Press onClick={() => setOnly(only === 'both' ? which : 'both')} title={t`One drawing or both (+)`}>
      {only === 'both' ? t`Larger` : t`Both`}
    </Press>
  );
  const tabs = (
    <>
      <Tabs label={t`Drawing`} value={picture} of="picture" tabs={pictures} onPick={setPicture} />
      {larger('other')}
    </>
  );
  return (
    <>
      {only !== 'other' &&
        (judged.section ? (
          <Drawing
            svg={judged.section}
            title={t`Section through the bolts`}
            caption={
              <>
                {t`Section through the bolts`} {larger('section')}
              </>
            }
            lit={lit}
            onPoint={onPoint}
          />
        ) : (
          <NoSection judged={judged} />
        ))}
      {only !== 'section' &&
        (judged[picture] ? (
          <Drawing svg={judged[picture]} title={pictures.find(([p]) => p === picture)![1]} caption={tabs} panel={panelOf('picture', picture)} lit={lit} onPoint={onPoint}>
            {picture === 'side' && <Motion of="tilt" judged={judged} />}
            {picture === 'above' && <Motion of="swivel" judged={judged} />}
          </Drawing>
        ) : (
          <Frame className="drawing">
            <figcaption>{tabs}</figcaption>
            <Nothing {...panelOf('picture', picture)}>
              <p>{missing[picture][0]}</p>
              <p>{missing[picture][1]}</p>
            </Nothing>
          </Frame>
        ))}
    </>
  );
});

/** Moves the drawing through the bracket's range. */
function Motion({ of, judged }: { of: 'tilt' | 'swivel'; judged: BenchAnswer }) {
  const { inputs, ask } = useWorkspace();
  const id = useId();
  const b = judged.bracket;
  const [low, high] = of === 'tilt' ? [-(b.tilt_up_deg ?? 0), b.tilt_down_deg ?? 0] : [-(b.swivel_deg ?? 0), b.swivel_deg ?? 0];
  return (
    <Box className="slider" sx={{ px: 2, fontSize: 13 }}>
      {low < high && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 4 }}>
          <Box component="span" id={id} sx={{ whiteSpace: 'nowrap', minWidth: 84 }}>
            {of === 'tilt' ? t`Tilt` : t`Swivel`} {inputs[of]}°
          </Box>
          <MuiSlider size="small" min={low} max={high} step={0.5} value={inputs[of]} aria-labelledby={id} track={false} onChange={(_, v) => ask({ [of]: v as number }, of)} />
        </Box>
      )}
      <Box component="p" sx={{ color: 'text.secondary' }}>
        {judged.motion}
      </Box>
    </Box>
  );
}

function NoSection({ judged }: { judged: BenchAnswer }) {
  const stack = judged.pairing.checks.find((c) => c.rule === 'stack');
  return (
    <Frame className="drawing">
      <Nothing>
        <p>
          <b>{stack?.status === 'unknown' ? t`The bolts cannot be chosen yet.` : t`No safe bolts for this pairing.`}</b>
        </p>
        <p>{stack?.text}</p>
        <p>{stack?.remedy}</p>
      </Nothing>
    </Frame>
  );
}
