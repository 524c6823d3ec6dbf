import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { styled } from '@mui/material/styles';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { submits, useTyped } from '../parts/form';
import { answer, api, Refused, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Drawing } from '../parts/Drawing';
import { FieldError, Hint, Quick, Warn } from '../parts/Page';
import { Remove } from '../parts/Press';
import { FigureLine, FigureList, QuantityInput } from '../parts/QuantityField';
import { useWorkspace } from '../state/workspace';
import { asTrial, threads, type ToldTrial } from '../state/inputs';
import type { Units } from '../state/units';

const outcomes = [
  ['stopped', t`stopped while turning`],
  ['seated', t`turned until its head came down`],
  ['rests', t`pushed in, rests on the thread`],
  ['too_big', t`will not go in`],
  ['too_small', t`drops in, no thread`],
  ['loose', t`catches and rocks`],
] as const;

// What callers say for a length, and how far that may be off (practice).
const byHand = [
  [t`a coin’s thickness`, '2 mm', '1 mm'],
  [t`a pencil’s thickness`, '7 mm', '1 mm'],
  [t`a finger’s width`, '16 mm', '4 mm'],
  [t`a thumb’s width`, '20 mm', '4 mm'],
] as const;

const Told = styled('ol')(({ theme }) => ({
  margin: 0,
  padding: '0 0 0 18px',
  fontSize: 13.5,
  lineHeight: 1.25,
  '& li > div': { display: 'flex', alignItems: 'flex-start' },
  '& li > div > span': { flex: 1, padding: '3px 0' },
  '& .clash': { color: theme.vars!.palette.error.main, fontWeight: 600 },
  '& q': { display: 'block', color: theme.vars!.palette.text.secondary },
}));

const probing = (told: ToldTrial[], bracket: string, units: Units) => ({
  trials: [],
  changes: told.length > 0 ? [{ path: 'trials', to: told.map((t) => asTrial(t, units)) }] : undefined,
  bracket_id: bracket || undefined,
  units,
});

interface Column {
  at: string;
  name: string;
}

/** What a caller tells of holes that nobody has measured, trial by trial. */
export function Call({ holes, bracket, eager }: { holes: Column[]; bracket: string; eager: boolean }) {
  const { inputs, ask, units } = useWorkspace();
  // '' for all holes, as long as nothing else was told of one of them.
  const alike = holes.every((h) => JSON.stringify(inputs.trials[h.at] ?? []) === JSON.stringify(inputs.trials[holes[0]!.at] ?? []));
  const [chosen, setWhich] = useState('');
  const which = alike ? chosen : chosen || holes[0]!.at;
  const places = which === '' ? holes.map((h) => h.at) : [which];
  const told = inputs.trials[places[0] ?? ''] ?? [];
  const put = (list: ToldTrial[]) => ask((a) => ({ trials: { ...a.trials, ...Object.fromEntries(places.map((p) => [p, list])) } }));

  const probed = useQuery({
    queryKey: ['probe', told, bracket, units],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/probe', {
          body: probing(told, bracket, units),
          signal,
        }),
      ),
    placeholderData: (last) => last,
  });
  const result = probed.data?.result;
  const wrong = probed.error instanceof Refused ? (probed.error.problem.problems ?? []) : [];
  const clashing = new Set(result?.conflicts.flatMap((c) => c.trials));
  return (
    <Box component="section" className="call" aria-label={t`On the telephone`} sx={{ mt: 2 }}>
      <FigureList>
        <FigureLine label={t`Holes`}>
          <Choice
            label={t`Holes the caller speaks of`}
            value={which}
            options={[['', alike ? t`all alike` : t`all alike (they are not)`, !alike], ...holes.map((h) => [h.at, h.name] as const)]}
            onPick={setWhich}
          />
        </FigureLine>
      </FigureList>
      {probed.data && (
        <Box className="hole" sx={{ height: 150, display: 'flex', bgcolor: 'background.paper', my: 1.5, mx: -2 }}>
          <Drawing svg={probed.data.drawing} title={t`What is known of the hole`} caption={null} lit={[]} />
        </Box>
      )}
      <Told className="trials">
        {told.map((trial, i) => (
          <li key={i} className={clashing.has(i) ? 'clash' : ''}>
            <div>
              <span>
                <b>
                  {trial.thread}×{trial.length}
                </b>{' '}
                {outcomes.find(([o]) => o === trial.outcome)?.[1]}
                {trial.gap && t`, ${trial.gap} left`}
                {trial.turns && t`, ${trial.turns} turns`}
                {trial.said && <q>{trial.said}</q>}
              </span>
              <Remove what={t`trial ${i + 1}`} act={() => put(told.filter((_, j) => j !== i))} />
            </div>
          </li>
        ))}
      </Told>
      {wrong.map((p) => (
        <FieldError key={p.path}>{t`Trial ${Number(/trials\[(\d+)\]/.exec(p.path)?.[1] ?? 0) + 1}: ${p.found}`}</FieldError>
      ))}
      {result?.conflicts.map((c) => (
        <FieldError key={c.text}>{c.text}</FieldError>
      ))}
      {result?.hints?.map((h) => (
        <Warn key={h}>{h}</Warn>
      ))}
      {result && !probed.isPlaceholderData && (
        <Entry key={told.length} last={told.at(-1)} eager={eager} next={result.next ?? undefined} units={units} told={told} bracket={bracket} onAdd={(t) => put([...told, t])} />
      )}
    </Box>
  );
}

interface EntryProps {
  eager: boolean;
  last?: ToldTrial;
  next?: Schemas['NextTrial'];
  told: ToldTrial[]; // before
  bracket: string;
  units: Units;
  onAdd: (t: ToldTrial) => void;
}

/** One trial as it is told. The proposed bolt is filled in already. */
function Entry({ next, last, told, bracket, units, eager, onAdd }: EntryProps) {
  const { typed: trial, put: set } = useTyped<ToldTrial>({
    thread: next?.thread ?? last?.thread ?? 'M6',
    length: next ? String(next.length_mm) : (last?.length ?? ''),
    outcome: next?.outcome ?? 'stopped',
    gap: '',
    turns: '',
    tolerance: '',
    said: '',
    unit: units,
  });
  const measured = trial.outcome === 'stopped' || trial.outcome === 'rests';
  const whole = trial.length.trim() !== '' && (!measured || trial.gap.trim() !== '' || trial.turns.trim() !== '');
  // What cannot be read stays in its field, and is said there.
  const check = useMutation({
    mutationFn: (mine: ToldTrial) => answer(api.POST('/api/probe', { body: probing([...told, mine], bracket, units) })),
    onSuccess: (_, mine) => onAdd(mine),
  });
  const problems = check.error instanceof Refused ? (check.error.problem.problems ?? []) : [];
  const wrong = (name: string) => problems.find((p) => p.path.endsWith(`.${name}`))?.found;
  const add = () => {
    // What the outcome does not ask for has no field any more.
    const asked = { ...trial, gap: measured ? trial.gap : '', turns: trial.outcome === 'stopped' || trial.outcome === 'seated' ? trial.turns : '' };
    if (whole && !check.isPending) check.mutate(asked);
  };
  return (
    <Box component="form" className="entry" onSubmit={submits(add)} sx={{ borderTop: 1, borderColor: 'divider', mt: 1.5, mb: 3, pt: 1.5 }}>
      <Hint>
        {next ? (
          <>
            {t`Next:`}{' '}
            <b data-next={`${next.thread}×${next.length_mm}`}>
              {next.thread}×{next.length_mm}
            </b>
            . {next.why}
          </>
        ) : (
          t`No other trial would tell more.`
        )}
      </Hint>
      <Quick sx={{ flexWrap: 'nowrap' }}>
        <Choice label={t`Thread of the bolt`} width={66} value={trial.thread} options={threads.map((x) => [x, x])} onPick={(thread) => set({ thread })} />
        ×
        <QuantityInput label={t`Length of the bolt, mm`} width={84} text={trial.length} unit="mm" step={0} error={wrong('length_mm')} onText={(length) => set({ length })} />
      </Quick>
      <Choice
        label={t`What happened`}
        pick="call"
        autoFocus={eager}
        value={trial.outcome}
        options={outcomes}
        onPick={(outcome) => set({ outcome })}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return;
          e.preventDefault();
          add();
        }}
      />
      {(measured || trial.outcome === 'seated') && (
        <FigureList sx={{ my: 1 }}>
          {measured && (
            <FigureLine label={t`Gap under bolt head`}>
              <QuantityInput label={t`Gap under bolt head`} error={wrong('gap_mm')} text={trial.gap} unit={trial.unit} step={0} onText={(text) => set(inWords(text))} />
            </FigureLine>
          )}
          {trial.outcome !== 'rests' && (
            <FigureLine label={t`Turns`}>
              <QuantityInput label={t`Turns`} error={wrong('turns')} text={trial.turns} onText={(turns) => set({ turns })} />
            </FigureLine>
          )}
          <FigureLine label={t`Tolerance ±`}>
            <QuantityInput label={t`Tolerance ±`} error={wrong('tolerance_mm')} placeholder="1 mm" text={trial.tolerance} unit={trial.unit} step={0} onText={(tolerance) => set({ tolerance })} />
          </FigureLine>
        </FigureList>
      )}
      {measured && (
        <Quick role="group" aria-label={t`In the caller’s words`}>
          {byHand.map(([words, length]) => (
            <Button
              key={words}
              variant="outlined"
              color="inherit"
              title={t`${words}, about ${length}`}
              onClick={() => set(inWords(words))}
              sx={{ py: 0, px: 1.5, fontWeight: 400, borderColor: 'divider' }}
            >
              {words.replace(/^a |’s.*$/g, '')}
            </Button>
          ))}
        </Quick>
      )}
      {check.error && problems.length === 0 && <FieldError>{check.error.message}</FieldError>}
      <Button type="submit" variant="outlined" disabled={!whole} loading={check.isPending}>
        <Trans>
          Add this trial&nbsp;<kbd>Enter</kbd>
        </Trans>
      </Button>
    </Box>
  );
}

/** A caller's words for a length become one, with how far it may be off. */
function inWords(text: string): Partial<ToldTrial> {
  const plain = text.trim().toLowerCase().replaceAll("'", '’');
  const found = byHand.find(([words]) => words.toLowerCase() === plain);
  return found ? { gap: found[1], tolerance: found[2], said: found[0] } : { gap: text, said: '' };
}
