import { plural, t } from '@lingui/core/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Hint, Quick } from '../parts/Page';
import { Press } from '../parts/Press';
import { ShortField } from '../parts/ShortField';
import { change, type Change } from './changes';
import { PhotoEditor } from './Photos';

type Step = Schemas['Step'];

const lines = (text: string) =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean);

const of = (step: string, what: Change['what']) => (c: Change) => c.step === step && c.what === what;
const without = (step: string, what: Change['what']) => (all: Change[]) => all.filter((c) => !of(step, what)(c));

const figures: [string, string][] = [
  ['bags', t`what is in the bags`],
  ['back', t`back of the display`],
  ['try', t`gap under the head`],
  ['stack', t`what goes on the bolt`],
  ['arms', t`arms, up and sides`],
  ['hook', t`the hook`],
  ['wall', t`what the finder shows`],
  ['prove', t`the second way`],
  ['marks', t`what is marked`],
  ['drill', t`the hole, cut through`],
  ['plate', t`the plate`],
  ['lift', t`who lifts`],
  ['lock', t`from the side`],
  ['level', 'levelling'],
  ['tension', 'tilted'],
  ['cables', 'cables'],
];

interface Props {
  step: Step;
  order: Step[];
  changes: Change[];
  onClose: () => void;
}

/** What an engineer changes of a step: its words, its place, its figure, or that it is there. Figures in
    the text stay those that are computed. */
export function StepEditor({ step, order, changes, onClose }: Props) {
  const mine = changes.find(of(step.id, 'reword'));
  const [text, setText] = useState((mine?.text ?? step.template).join('\n'));
  const [why, setWhy] = useState('');
  const [title, setTitle] = useState('');
  const [more, setMore] = useState('');
  const at = order.findIndex((s) => s.id === step.id);
  const added = changes.find(of(step.id, 'add'));
  const unknown = [...text.matchAll(/\{(\d+)\}/g)].map((m) => Number(m[1])).filter((n) => n < 1 || n > step.values.length);
  const lost = step.values.map((_, i) => i + 1).filter((n) => step.values[n - 1]!.trim() && !text.includes(`{${n}}`));
  const move = (after: string | undefined) => after && change((all) => [...without(step.id, 'move')(all), { step: step.id, what: 'move', after }]);
  return (
    <Box className="step-editor" sx={{ gridColumn: '1 / -1', borderLeft: 3, borderColor: 'primary.main', pl: 3, my: 2 }}>
      {!added && (
        <>
          <Hint>{t`What is done, a sentence a line`}</Hint>
          <TextField
            multiline
            minRows={3}
            fullWidth
            autoFocus
            size="small"
            value={text}
            error={unknown.length > 0}
            helperText={unknown.length > 0 ? t`There is no figure ${unknown.map((n) => `{${n}}`).join(', ')}.` : undefined}
            onChange={(e) => setText(e.target.value)}
            slotProps={{ htmlInput: { 'aria-label': t`Text of ${step.title}` } }}
          />
          {step.values.length > 0 && (
            <Hint>
              {t`Figures follow what is computed:`}{' '}
              {step.values
                .map((v, i) => v.trim() && `{${i + 1}} = ${v}`)
                .filter(Boolean)
                .join('; ')}
              . {lost.length > 0 && t`Not in the text: ${lost.map((n) => `{${n}}`).join(', ')}.`}
            </Hint>
          )}
          <Quick>
            <Button
              variant="outlined"
              disabled={unknown.length > 0 || !text.trim() || text === (mine?.text ?? step.template).join('\n')}
              onClick={() => {
                change((all) => [...without(step.id, 'reword')(all), { step: step.id, what: 'reword', was: step.template, text: lines(text) }]);
                onClose();
              }}
            >
              {t`Use this text`}
            </Button>
            {mine && (
              <Press
                onClick={() => {
                  change(without(step.id, 'reword'));
                  onClose();
                }}
              >
                {t`As it was generated`}
              </Press>
            )}
          </Quick>
        </>
      )}
      <Quick sx={{ mt: 2 }}>
        <Press disabled={at < 1} onClick={() => move(order[at - 2]?.id)}>
          {t`Earlier`}
        </Press>
        <Press disabled={at >= order.length - 1} onClick={() => move(order[at + 1]?.id)}>
          {t`Later`}
        </Press>
        {changes.some(of(step.id, 'move')) && <Press onClick={() => change(without(step.id, 'move'))}>{t`Back to its place`}</Press>}
        <Choice
          label={t`Figure of ${step.title}`}
          width={190}
          value={step.figure ?? ''}
          options={figures}
          onPick={(figure) => change((all) => [...without(step.id, 'figure')(all), { step: step.id, what: 'figure', figure: figure as Change['figure'] }])}
        />
        {added && <Press onClick={() => change(without(step.id, 'add'))}>{t`Take this step out`}</Press>}
      </Quick>
      <PhotoEditor step={step} changes={changes} />
      {!added && (
        <Quick>
          <ShortField label={t`Reason to leave it out`} value={why} onChange={setWhy} width={300} />
          <Press
            onClick={() => {
              change((all) => [...without(step.id, 'hide')(all), { step: step.id, what: 'hide', ...(why.trim() && { why }) }]);
              onClose();
            }}
          >
            {t`Leave this step out`}
          </Press>
        </Quick>
      )}
      <Quick>
        <ShortField label={t`Title of a new step after this`} value={title} onChange={setTitle} width={230} />
        <ShortField label={t`What is done in it`} value={more} onChange={setMore} />
        <Press
          disabled={!title.trim() || !more.trim()}
          onClick={() => {
            const id = free(title, order);
            change((all) => [...all, { step: id, what: 'add', stage: step.stage, title, text: lines(more), after: step.id }]);
            onClose();
          }}
        >
          {t`Add it`}
        </Press>
      </Quick>
      <Button color="inherit" onClick={onClose} sx={{ mt: 1 }}>
        {t`Close`}
      </Button>
    </Box>
  );
}

/** A name for a step that no other has. */
function free(title: string, order: Step[]): string {
  const base = `own_${title.toLowerCase().replaceAll(/[^a-z0-9]+/g, '_')}`.slice(0, 36);
  let id = base;
  for (let n = 2; order.some((s) => s.id === id); n++) id = `${base}_${n}`;
  return id;
}

/** Changes that do not meet the sequence any more, each with both sides, to be settled one by one. */
export function Conflicts({ conflicts, steps }: { conflicts: Schemas['Conflict'][]; steps: Step[] }) {
  if (conflicts.length === 0) return null;
  return (
    <Alert severity="warning" className="conflicts" sx={{ mb: 2.5 }}>
      <b>{plural(conflicts.length, { one: 'One change was not applied.', other: '# changes were not applied.' })}</b> {t`The generated text stands until each is settled.`}
      {conflicts.map((c) => {
        const title = steps.find((s) => s.id === c.step)?.title ?? c.step;
        return (
          <Box key={c.change} className="conflict" sx={{ mt: 2, pt: 1.5, borderTop: 1, borderColor: 'divider' }}>
            <b>{title}</b>: {c.why}.
            {c.was && (
              <Box component="dl" sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', gap: '2px 10px', m: 0, '& dt': { color: 'text.secondary' }, '& dd': { m: 0, whiteSpace: 'pre-line' } }}>
                <dt>{t`it was`}</dt>
                <dd>{c.was.join('\n')}</dd>
                <dt>{t`it is now`}</dt>
                <dd>{c.now?.join('\n') ?? 'gone'}</dd>
                <dt>{t`yours`}</dt>
                <dd>{c.mine?.join('\n')}</dd>
              </Box>
            )}
            <Quick>
              <Press onClick={() => change((all) => all.filter((_, i) => i !== c.change))}>{c.now ? t`Take the new text` : t`Drop this change`}</Press>
              {c.now && c.mine && <Press onClick={() => change((all) => all.map((x, i) => (i === c.change ? { ...x, was: c.now } : x)))}>{t`Keep mine on it`}</Press>}
            </Quick>
          </Box>
        );
      })}
    </Alert>
  );
}

/** Steps that were left out, with the reason, and the way back. */
export function LeftOut({ hidden }: { hidden: Schemas['Hidden'][] }) {
  if (hidden.length === 0) return null;
  return (
    <Alert severity="info" className="left-out" sx={{ mb: 2.5 }}>
      {hidden.map((h) => (
        <Quick key={h.id}>
          {h.text} <Press onClick={() => change(without(h.id, 'hide'))}>{t`Bring it back`}</Press>
        </Quick>
      ))}
    </Alert>
  );
}
