import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Link from '@mui/material/Link';
import FormControlLabel from '@mui/material/FormControlLabel';
import { styled } from '@mui/material/styles';
import { at } from '../base';
import { Head, Hint } from '../parts/Page';
import { Spoken } from '../parts/Language';
import { commandsHere } from '../state/commands';
import { useWorkspace } from '../state/workspace';

const inFields: { keys: string[]; does: string }[] = [
  { keys: ['↑', '↓'], does: t`in a figure: move it; with Shift ten times as far` },
  { keys: [t`Esc`], does: t`leave a field` },
];

const words: [string, string][] = [
  [t`rim offset`, t`how far the rim around a hole lies in front of the display’s rearmost surface`],
  [t`recess`, t`the hollow around a hole, down to the face of its thread`],
  [t`thread engaged`, t`length of thread that the bolt is in; at least one diameter`],
  [t`tip clearance`, t`room left before the bolt’s tip; without it, the panel cracks`],
  [t`worst case`, t`the same with all tolerances against it`],
  [t`lean`, t`how far the display leans when its rows stand off unequally`],
  [t`utilisation`, t`what a fastener is asked for, of what it may hold`],
];

const Terms = styled('dl')({
  margin: '0 0 14px',
  '& > div': { display: 'grid', gridTemplateColumns: '84px 1fr', gap: 10, padding: '3px 0' },
  '& dd': { margin: 0 },
  '& dt': { fontWeight: 600, display: 'flex', flexWrap: 'wrap', gap: 4, alignContent: 'start' },
});

/** What keys do on this screen, and what words mean. */
export function Help({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md" aria-labelledby="help-title">
      <DialogTitle id="help-title">{t`Keys and words`}</DialogTitle>
      {open && <Contents />}
      <DialogActions>
        <Link href={at('/assets/licences.txt')} target="_blank" rel="noopener" sx={{ mr: 'auto', ml: 2 }}>
          {t`Licences of what it is made of`}
        </Link>
        <Button onClick={onClose} autoFocus>
          {t`Close`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Contents() {
  const { letters, setLetters } = useWorkspace();
  return (
    <DialogContent>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(280px, 1fr))', gap: 4.5 }}>
        <div>
          {[...commandsHere(), { of: t`In fields`, commands: inFields }].map(({ of, commands }) => (
            <section key={of} aria-label={of}>
              <Head>{of}</Head>
              <Terms>
                {commands.map(({ keys, does }) => (
                  <div key={does}>
                    <dt>
                      {keys.map((k) => (
                        <kbd key={k}>{k}</kbd>
                      ))}
                    </dt>
                    <dd>{does}</dd>
                  </div>
                ))}
              </Terms>
            </section>
          ))}
        </div>
        <div>
          <Head>{t`Words`}</Head>
          <Terms>
            {words.map(([k, text]) => (
              <div key={k}>
                <dt>{k}</dt>
                <dd>{text}</dd>
              </div>
            ))}
          </Terms>
          <FormControlLabel control={<Checkbox checked={letters} onChange={(e) => setLetters(e.target.checked)} />} label={t`Single-key shortcuts`} />
          <Spoken />
        </div>
      </Box>
      <Hint>{t`Figures take any unit: 12, 12.5 mm, 1/2 in, 6-1/8". The product advises; the maker’s manual, local codes and licensed practice decide.`}</Hint>
    </DialogContent>
  );
}
