import { useEffect, useState } from 'react';
import { Refused, type Problem, type Schemas, type Verdict } from '../api';

export interface Cell {
  verdict: Verdict;
  rule: string; // '' when every rule passes
  sends: boolean;
}

export interface Matrix {
  head: Schemas['MatrixHead'];
  rows: (Cell[] | undefined)[]; // by display; undefined while it is not judged yet
  judged: number;
  end?: Schemas['MatrixEnd'];
}

function cellsOf(head: Schemas['MatrixHead'], letters: string): Cell[] {
  const out: Cell[] = [];
  for (let i = 0; i < letters.length; i += 2) {
    const v = letters[i]!;
    const small = v.toLowerCase();
    out.push({
      verdict: head.verdicts[small.charCodeAt(0) - 97] as Verdict,
      rule: head.rules[letters.charCodeAt(i + 1) - 97] ?? '',
      sends: v !== small,
    });
  }
  return out;
}

/** The matrix as it comes, line by line; stop ends the work on the server too. */
export function useMatrix() {
  const [matrix, setMatrix] = useState<Matrix>();
  const [error, setError] = useState<Error>();
  const [stopped, setStopped] = useState(false);
  const [abort] = useState(() => ({ now: new AbortController() }));

  useEffect(() => {
    const control = new AbortController();
    abort.now = control;
    let m: Matrix | undefined;
    let shown = 0;
    const show = () => {
      shown = performance.now();
      if (m) setMatrix({ ...m });
    };
    const take = (line: string) => {
      const said = JSON.parse(line) as Partial<Schemas['MatrixHead'] & Schemas['MatrixRow'] & Schemas['MatrixEnd']>;
      if (said.displays) m = { head: said as Schemas['MatrixHead'], rows: new Array<Cell[] | undefined>(said.displays.length), judged: 0 };
      else if (said.cells !== undefined && m) {
        m.rows[said.display!] = cellsOf(m.head, said.cells);
        m.judged++;
      } else if (m) m.end = said as Schemas['MatrixEnd'];
    };
    const read = async () => {
      const answer = await fetch('/api/matrix', { signal: control.signal });
      if (!answer.ok || !answer.body) throw new Refused((await answer.json()) as Problem);
      const text = answer.body.pipeThrough(new TextDecoderStream()).getReader();
      let rest = '';
      for (;;) {
        const { done, value } = await text.read();
        if (done) break;
        const lines = (rest + value).split('\n');
        rest = lines.pop() ?? '';
        lines.forEach(take);
        if (performance.now() - shown > 120) show();
      }
      show();
      if (!m?.end) throw new Error('The matrix ended too early. Open it again.');
    };
    read().catch((e: Error) => {
      if (e.name === 'AbortError') setStopped(true);
      else setError(e);
    });
    return () => control.abort();
  }, [abort]);
  return { matrix, error, stopped, stop: () => abort.now.abort() };
}
