import { t } from '@lingui/core/macro';
import { regional } from '../i18n';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQueryClient } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import type { BenchAnswer, Schemas } from '../api';
import { haveRead, type State } from '../state/judged';
import { useUnits } from '../state/workspace';
import { shown, type Units } from '../state/units';
import { figureName, hereWords, verdictWords } from '../words';
import { Stamp } from './Verdict';
import { When } from './When';

const clock = (at: number) => new Intl.DateTimeFormat(regional, { hour: '2-digit', minute: '2-digit' }).format(at);

const joined = (changed: () => void) => {
  window.addEventListener('online', changed);
  window.addEventListener('offline', changed);
  return () => {
    window.removeEventListener('online', changed);
    window.removeEventListener('offline', changed);
  };
};

/** Why what is on the screen has no verdict; undefined: it has. */
export function useUnsaid(state: State): string | undefined {
  const network = useSyncExternalStore(joined, () => navigator.onLine);
  if (state.kind === 'unreachable') return t`Not judged${state.since ? t` since ${clock(state.since)}` : ''}: ${network ? t`the server does not answer` : t`no network`}`;
  if (state.kind === 'refused') return t`Not judged: ${state.why}`;
  return state.kind === 'waiting' ? t`Judging…` : undefined;
}

/** The one verdict of what is on the screen: of the pairing, and of the wall where there is one. What has not been
    judged has none, and says so. */
export function Said({ said, state }: { said?: Schemas['Said']; state: State }) {
  const not = useUnsaid(state);
  if (not !== undefined || !said)
    return (
      <Box
        component="span"
        className="stamp"
        data-verdict="none"
        sx={{ fontWeight: 600, fontSize: 16, border: '2px dashed', borderColor: 'text.secondary', borderRadius: '3px', px: 2.5, py: 0.25, color: 'text.primary' }}
      >
        {not ?? t`Judging…`}
      </Box>
    );
  return <Stamp verdict={said.verdict} words={(said.on_wall ? hereWords : verdictWords)[said.verdict]} />;
}

/** What others saved of the display or bracket since it was opened here. The verdict is of what is saved now. */
export function Meanwhile({ judged }: { judged: BenchAnswer }) {
  const queries = useQueryClient();
  if (judged.meanwhile.length === 0) return null;
  const name = { display: [judged.display.maker, judged.display.model].filter(Boolean).join(' '), bracket: judged.bracket.name ?? judged.bracket.id };
  const read = () => {
    haveRead(judged);
    void queries.invalidateQueries({ queryKey: ['bench'] });
  };
  return (
    <Alert
      severity="info"
      className="meanwhile"
      square
      action={
        <Button color="inherit" onClick={read}>
          {t`OK`}
        </Button>
      }
    >
      {judged.meanwhile.map((m) => (
        <div key={m.what}>
          <SavedMeanwhile of={m} name={name[m.what]} /> {t`The verdict is of what is saved now.`}
        </div>
      ))}
    </Alert>
  );
}

/** Who saved something meanwhile, when, why and what. */
export function SavedMeanwhile({ of: m, name }: { of: Schemas['Meanwhile']; name: string }) {
  const units = useUnits();
  return (
    <>
      <Trans>
        {m.who || t`Somebody`} changed {name} <When at={m.at} />
      </Trans>
      {m.why && ` (${m.why.replace(/\.$/, '')})`}: {differences(m.changes, units)}.
    </>
  );
}

/** A change of a figure in words. */
export const changed = (c: Schemas['Change'], units: Units) => {
  const inUnits = (u: Units) => [shown(c.path, c.before, u), shown(c.path, c.after, u)] as const;
  const [before, after] = inUnits(units);
  const [was, is] = before === after ? inUnits('mm') : [before, after]; // what is the same as it is read is not in a document
  return `${figureName(c.path)}: ${was} → ${is}`;
};

const mostSaid = 4;

function differences(changes: Schemas['Change'][], units: Units): string {
  const said = changes.slice(0, mostSaid).map((c) => changed(c, units));
  if (changes.length > mostSaid) said.push(t`${changes.length - mostSaid} more`);
  return said.join(', ');
}
