import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { answer, api, type Schemas } from '../api';

/** The bench gauge: its reading, taken into the figure that has the keyboard. */
export function GaugePanel({ at, take }: { at: string; take: (text: string) => void }) {
  const [on, setOn] = useState(false);
  const [reading, setReading] = useState<Schemas['GaugeReading']>();
  const [size, setSize] = useState('14.2');
  useEffect(() => {
    if (!on) return;
    const lines = new EventSource('/api/gauge');
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
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.key === 'F8') {
        e.preventDefault();
        now();
      }
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
  const put = async () => {
    const n = Number(size.replace(',', '.'));
    if (!Number.isFinite(n)) return;
    await answer(api.POST('/api/gauge/put', { body: (weight ? { kind: 'weight', mass_kg: n } : { kind: 'depth', depth_mm: n }) as never })).catch(() => setReading(undefined));
  };
  return (
    <section className="gauge-panel" aria-label="Bench gauge">
      <h2>Bench gauge</h2>
      {!on && (
        <Button size="small" variant="outlined" onClick={() => setOn(true)}>
          Connect
        </Button>
      )}
      {on && (
        <>
          <p className="reading" data-steady={reading?.steady ? 'yes' : 'no'}>
            {reading?.text ?? 'no reading'} <span className="hint">{reading ? (reading.take ? 'steady' : 'settling') : ''}</span>
          </p>
          <Button size="small" variant="contained" disabled={!ready} onMouseDown={(e) => e.preventDefault()} onClick={now} title="Take the steady reading into the figure that has the keyboard (F8)">
            Take <kbd>F8</kbd>
          </Button>
          <p className="hint">{at === '' ? 'Put the keyboard on a figure.' : below ? 'The gauge reads below nought: set it to nought first.' : !fits && reading ? 'The gauge shows another kind of figure.' : `Into ${at}.`}</p>
          <p className="hint">
            This gauge is simulated: lay it on{' '}
            <input className="figure-field" style={{ width: 56 }} aria-label="True size under the simulated gauge" value={size} onChange={(e) => setSize(e.target.value)} onKeyDown={(e) => e.key === 'Enter' && void put()} /> {weight ? 'kg' : 'mm'}{' '}
            <button type="button" className="press" onMouseDown={(e) => e.preventDefault()} onClick={() => void put()}>
              Lay it on
            </button>
          </p>
        </>
      )}
    </section>
  );
}
