import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { at as url } from '../base';
import { answer, api, type Schemas } from '../api';
import { Head, Hint, Quick } from '../parts/Page';
import { QuantityInput } from '../parts/QuantityField';
import { useCommands } from '../state/commands';
import { figureName } from '../words';

/** The bench gauge: its reading, taken into the figure that has the keyboard. */
export function GaugePanel({ at, take }: { at: string; take: (text: string) => void }) {
  const [on, setOn] = useState(false);
  const [reading, setReading] = useState<Schemas['GaugeReading']>();
  const [size, setSize] = useState('14.2');
  useEffect(() => {
    if (!on) return;
    const lines = new EventSource(url('/api/gauge'));
    lines.onmessage = (e: MessageEvent<string>) => setReading(JSON.parse(e.data) as Schemas['GaugeReading']);
    lines.onerror = () => setReading(undefined);
    return () => lines.close();
  }, [on]);
  const weight = at.endsWith('_kg');
  const fits = reading !== undefined && (reading.kind === 'weight') === weight && /_(mm|kg)$/.test(at);
  const below = reading?.take.startsWith('-') === true; // not set to nought, or the wrong way round
  const ready = on && fits && reading.take !== '' && !below;
  const now = () => {
    if (ready) take(reading.take);
  };
  useCommands(t`At the gauge`, [{ key: 'F8', does: t`take the steady reading into the figure that has the keyboard`, run: now }], 3);
  const put = async () => {
    const n = Number(size.replace(',', '.'));
    if (!Number.isFinite(n)) return;
    await answer(api.POST('/api/gauge/put', { body: (weight ? { kind: 'weight', mass_kg: n } : { kind: 'depth', depth_mm: n }) as never })).catch(() => setReading(undefined));
  };
  return (
    <section className="gauge-panel" aria-label={t`Bench gauge`}>
      <Head>{t`Bench gauge`}</Head>
      {!on && (
        <Button variant="outlined" onClick={() => setOn(true)}>
          {t`Connect`}
        </Button>
      )}
      {on && (
        <>
          <Box component="p" className="reading" data-steady={reading?.steady ? 'yes' : 'no'} sx={{ fontSize: 26, my: 1, color: reading?.steady ? 'text.primary' : 'text.secondary' }}>
            {reading?.text ?? t`no reading`}{' '}
            <Box component="span" sx={{ fontSize: 13, color: 'text.secondary' }}>
              {reading ? (reading.take ? t`steady` : t`settling`) : ''}
            </Box>
          </Box>
          <Button variant="contained" disabled={!ready} onMouseDown={(e) => e.preventDefault()} onClick={now} title={t`Take the steady reading into the figure that has the keyboard (F8)`}>
            <Trans>
              Take&nbsp;<kbd>F8</kbd>
            </Trans>
          </Button>
          <Hint>
            {at === ''
              ? t`Select a field first.`
              : below
                ? t`The gauge reads below nought: set it to nought first.`
                : !fits && reading
                  ? t`The gauge shows another kind of figure.`
                  : t`Into the ${figureName(at)}.`}
          </Hint>
          <Hint>{t`This gauge is simulated: what lies on it is`}</Hint>
          <Quick>
            <form
              onSubmit={(e) => {
                e.preventDefault();
                void put();
              }}
            >
              <QuantityInput label={t`True size under the simulated gauge`} width={84} unit={weight ? 'kg' : 'mm'} step={0} text={size} onText={setSize} />
            </form>
            <Button color="inherit" onMouseDown={(e) => e.preventDefault()} onClick={() => void put()}>
              {t`Lay it on`}
            </Button>
          </Quick>
        </>
      )}
    </section>
  );
}
