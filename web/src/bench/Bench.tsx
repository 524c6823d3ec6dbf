import { t } from '@lingui/core/macro';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { Refused, faultOf } from '../api';
import { BenchGrid, Board as BoardArea, Nothing, Side, UnseenHead } from '../parts/Page';
import { Meanwhile, Said } from '../parts/Said';
import { useSave } from '../jobs/saving';
import { useLacks } from '../people/me';
import { useCommands } from '../state/commands';
import { useWorkspace } from '../state/workspace';
import { useJudged, useRequest } from '../state/judged';
import { centerPath, otherBracket } from '../state/inputs';
import { Answer, AnswerLine } from './Answer';
import { Board } from './Board';
import { errorsByPath, Figures } from './Figures';
import { Findings } from './Findings';
import { Sentence } from './Sentence';
import { Strip } from './Strip';

const Start = lazy(() => import('./Start').then((m) => ({ default: m.Start })));

/** The bench: one pairing, drawn to scale, answering at every keystroke. */
export function Bench() {
  const { inputs, ask, units } = useWorkspace();
  const request = useRequest();
  const judgedQuery = useJudged();
  const empty = !inputs.display && !inputs.typed;
  const judged = empty ? undefined : judgedQuery.data;
  const refused = judgedQuery.error instanceof Refused ? judgedQuery.error.problem : undefined;
  const errors = useMemo(() => errorsByPath(refused), [refused]);
  const [lit, setLit] = useState<string[]>([]);
  const [pointed, setPointed] = useState('');
  const light = useCallback((marks: string[]) => setLit(marks), []);

  const others = judged?.others;
  const at = judged?.bracket.id;
  const choose = useCallback((id: string) => ask((a) => otherBracket(a, id)), [ask]);
  const step = useCallback(
    (by: number) => {
      if (!others) return;
      const next = others[others.findIndex((o) => o.id === at) + by];
      if (next) choose(next.id);
    },
    [others, at, choose],
  );
  const save = useSave();
  const lacks = useLacks('edit');
  useCommands(t`On the bench`, [
    { key: 'n', does: t`next, previous bracket, the best first`, run: () => step(1) },
    { key: 'p', does: '', run: () => step(-1) },
    { key: 'g', does: t`findings; then ↑ ↓`, run: () => document.querySelector<HTMLElement>('.finding')?.focus() },
    { key: 'mod+s', does: t`save the pairing`, run: () => request && !lacks && !save.isPending && save.mutate(request) },
  ]);
  useEffect(() => {
    document.title = judged ? `${judged.title} – Nexufix` : empty ? 'Nexufix' : t`Bench – Nexufix`;
  }, [judged, empty]);

  const shownElsewhere = Object.keys(errors).filter((p) => p === centerPath(inputs) || p in inputs.changes);
  const unplaced = refused && (refused.problems ?? []).length > shownElsewhere.length;
  return (
    <>
      {!empty && <UnseenHead>{judged?.title ?? t`Bench`}</UnseenHead>}
      <Sentence judged={judged} centerError={errors[centerPath(inputs)]} />
      {judged && request && <Answer judged={judged} state={judgedQuery.state} stale={judgedQuery.isPlaceholderData || judgedQuery.isError} />}
      {!judged && !empty && (
        <AnswerLine data-stale="yes">
          <Said state={judgedQuery.state} />
        </AnswerLine>
      )}
      {judged && <Meanwhile judged={judged} />}
      {(unplaced || (judgedQuery.error && !refused?.problems && !judged)) && (
        <Alert severity="error" square>
          {judgedQuery.error?.message}
          {refused?.problems?.map((p) => (
            <div key={p.path + p.found}>
              {p.path}: {faultOf(p)}
            </div>
          ))}
          {refused?.status === 0 && (
            <Button color="inherit" onClick={() => void judgedQuery.refetch()}>
              {t`Try again`}
            </Button>
          )}
        </Alert>
      )}
      {empty && (
        <Suspense>
          <Start />
        </Suspense>
      )}
      {!empty && (
        <BenchGrid
          className={`bench units-${units}`}
          data-ready={judged && !judgedQuery.isFetching && !judgedQuery.isPlaceholderData ? 'yes' : 'no'}
          left={
            <Side className="side left" aria-label={t`Figures`}>
              <Figures judged={judged} errors={errors} request={request} />
            </Side>
          }
          board={
            <BoardArea className="board">
              {judged && <Board judged={judged} lit={lit} onPoint={setPointed} />}
              {!judged && refused?.problems && (
                <Nothing>
                  <p>{t`There is nothing to draw: a figure is not right.`}</p>
                  <p>{t`Put it right on the left; what is wrong stands there.`}</p>
                </Nothing>
              )}
              {!judged && !judgedQuery.error && <Skeleton variant="rectangular" role="status" aria-label={t`Judging…`} sx={{ m: 6, flex: 1, height: 'auto' }} />}
            </BoardArea>
          }
          right={
            <Side className="side right" aria-label={t`Findings`}>
              {judged && <Findings judged={judged} units={units} lit={lit} pointed={pointed} onLight={light} />}
            </Side>
          }
          strip={judged && <Strip judged={judged} onPick={choose} />}
        />
      )}
    </>
  );
}
