import { t } from '@lingui/core/macro';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { at } from '../base';
import { Refused, type Problem, type Schemas, type Verdict, inLanguage } from '../api';

export interface Cell {
  verdict: Verdict;
  rule: string; // '' when every rule passes
  alone: boolean; // but for the rule, it would fit
  sends: boolean;
  spacers: boolean; // to pass over what stands out
}

export interface Matrix {
  head: Schemas['MatrixHead'];
  rows: (Cell[] | undefined)[]; // by display; undefined while it is not judged yet
  judged: number;
  end?: Schemas['MatrixEnd'];
}

/** Cells by their three letters: equal ones are one object, however large the matrix. */
function cellsOf(head: Schemas['MatrixHead'], letters: string, known: Map<string, Cell>): Cell[] {
  const out: Cell[] = [];
  for (let i = 0; i < letters.length; i += 3) {
    const pair = letters.slice(i, i + 3);
    let cell = known.get(pair);
    if (!cell) {
      const [verdict, rule] = pair.toLowerCase();
      cell = {
        verdict: head.verdicts[verdict!.charCodeAt(0) - 97] as Verdict,
        rule: head.rules[rule!.charCodeAt(0) - 97] ?? '',
        alone: pair[1] !== rule,
        sends: pair[0] !== verdict,
        spacers: pair[2] === 's',
      };
      known.set(pair, cell);
    }
    out.push(cell);
  }
  return out;
}

export const takes = (c: Cell | undefined) => c?.verdict === 'fits' || c?.verdict === 'fits_with_conditions';

/** The rule that keeps most brackets from a display; '' when any takes it. */
export function reason(cells: Cell[] | undefined): string {
  if (!cells || cells.some(takes)) return '';
  const count = new Map<string, number>();
  for (const c of cells) count.set(c.rule, (count.get(c.rule) ?? 0) + 1);
  return [...count].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
}

/** Reads the matrix line by line, and says now and then how far it is. */
async function read(signal: AbortSignal, show: (m: Matrix) => void): Promise<Matrix> {
  let m: Matrix | undefined;
  let shown = 0;
  const known = new Map<string, Cell>();
  const take = (line: string) => {
    const said = JSON.parse(line) as Partial<Schemas['MatrixHead'] & Schemas['MatrixRow'] & Schemas['MatrixEnd']>;
    if (said.displays) m = { head: said as Schemas['MatrixHead'], rows: new Array<Cell[] | undefined>(said.displays.length), judged: 0 };
    else if (said.cells !== undefined && m) {
      m.rows[said.display!] = cellsOf(m.head, said.cells, known);
      m.judged++;
    } else if (m) m.end = said as Schemas['MatrixEnd'];
  };
  const answer = await fetch(at('/api/matrix'), { headers: inLanguage, signal });
  if (!answer.ok || !answer.body) throw new Refused((await answer.json()) as Problem);
  const text = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await text.read();
    if (done) break;
    const lines = (rest + value).split('\n');
    rest = lines.pop() ?? '';
    lines.forEach(take);
    if (m && performance.now() - shown > 120) {
      shown = performance.now();
      show({ ...m, rows: [...m.rows] }); // what is shown stays as it is: the next lines go into another list
    }
  }
  if (!m?.end) throw new Error(t`The matrix ended too early. Open it again.`);
  return { ...m, rows: [...m.rows] };
}

/** The matrix as it comes; stop ends the work on the server too. One that is whole is shown
    again without being asked for, until something is changed. */
export function useMatrix() {
  const queries = useQueryClient();
  const [sofar, setSofar] = useState<Matrix>();
  const [stopped, setStopped] = useState(false);
  const query = useQuery({ queryKey: ['matrix'], queryFn: ({ signal }) => read(signal, setSofar) });
  const stop = () => {
    setStopped(true);
    void queries.cancelQueries({ queryKey: ['matrix'] });
  };
  return { matrix: query.data ?? sofar, error: query.error, stopped, stop };
}
