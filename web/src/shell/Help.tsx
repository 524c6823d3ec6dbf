import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useDesk } from '../state/desk';

const keys: [string, string][] = [
  ['d', 'pick or type in the display'],
  ['b', 'pick the bracket'],
  ['n  p', 'next, previous bracket, the best first'],
  ['w  h', 'wall, height of the centre'],
  ['x  m', 'one drawing larger, or both; back, side, from above'],
  ['c  i', 'telephone: trial bolts; parts in hand: are they safe'],
  ['f', 'figures: change one to see what follows'],
  ['↑ ↓', 'in a figure: move it; with Shift ten times as far'],
  ['g', 'findings; then ↑ ↓'],
  ['z', 'undo'],
  ['u', 'millimetres or inches'],
  ['e l t s a k o v', 'bench, wall, template, steps, matrix, catalogue, policy, saved'],
  ['Ctrl+S', 'save the pairing'],
  ['Esc', 'leave a field'],
  ['?', 'this help'],
];

const words: [string, string][] = [
  ['rim offset', 'how far the rim around a hole lies in front of the display’s rearmost surface'],
  ['recess', 'the hollow around a hole, down to the face of its thread'],
  ['thread engaged', 'length of thread that the bolt is in; at least one diameter'],
  ['tip clearance', 'room left before the bolt’s tip; without it, the panel cracks'],
  ['worst case', 'the same with all tolerances against it'],
  ['lean', 'how far the display leans when its rows stand off unequally'],
];

export function Help({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { letters, setLetters } = useDesk();
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md" className="help" aria-labelledby="help-title">
      <DialogTitle id="help-title">Keys and words</DialogTitle>
      <DialogContent>
        <div className="help-columns">
          <dl>
            {keys.map(([k, text]) => (
              <div key={k}>
                <dt>
                  {k.split(/\s+/).map((one) => (
                    <kbd key={one}>{one}</kbd>
                  ))}
                </dt>
                <dd>{text}</dd>
              </div>
            ))}
          </dl>
          <dl>
            {words.map(([k, text]) => (
              <div key={k}>
                <dt>
                  <b>{k}</b>
                </dt>
                <dd>{text}</dd>
              </div>
            ))}
          </dl>
        </div>
        <label className="switch">
          <input type="checkbox" checked={letters} onChange={(e) => setLetters(e.target.checked)} /> Single-key shortcuts
        </label>
        <p className="hint">Figures take any unit: 12, 12.5 mm, 1/2 in, 5-5/8&quot;. The product advises; the maker’s manual, local codes and licensed practice decide.</p>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
