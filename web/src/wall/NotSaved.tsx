import Alert from '@mui/material/Alert';
import { Refused, type Site } from '../api';
import { Conflict } from '../parts/Conflict';
import { opened } from '../state/inputs';
import { useWorkspace } from '../state/workspace';
import { unsaved, type useSaveJob } from './site';

/** Why the job was not saved, as long as it is so; a save that came too late is compared and settled. */
export function NotSaved({ save, mine }: { save: ReturnType<typeof useSaveJob>; mine: Site }) {
  const { ask } = useWorkspace();
  const id = save.variables?.id ?? '';
  const theirs = save.error instanceof Refused ? save.error.problem.theirs : undefined;
  if (!theirs)
    return (
      <Alert severity="error" square className="not-saved" onClose={save.reset}>
        {save.error && unsaved(save.error)}
      </Alert>
    );
  const settle = (whose: 'mine' | 'theirs') => {
    if (whose === 'mine') return save.mutate({ id, over: theirs.removed ? 0 : theirs.number });
    save.reset();
    if (theirs.saved?.job) ask(opened(theirs.saved.job, theirs.number));
  };
  return <Conflict mine={mine} theirs={theirs} onSettle={settle} />;
}
