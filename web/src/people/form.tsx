import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { FormEvent, ReactNode } from 'react';
import { answer, api, faultOf, Refused, type Schemas } from '../api';
import { useNotice } from '../shell/notice';

/** Says what is wrong with a form, at its fields where it is known. */
export function wrongOf(error: Error | null): Record<string, string> {
  if (!(error instanceof Refused)) return {};
  return Object.fromEntries((error.problem.problems ?? []).map((p) => [p.path, t`It ${faultOf(p)}.`]));
}

export function Form({ children, onSubmit }: { children: ReactNode; onSubmit: (e: FormEvent) => void }) {
  return (
    <Box component="form" onSubmit={onSubmit} sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, my: 2, '& > button, & > .MuiInputBase-root': { mt: { sm: '22px' }, alignSelf: 'flex-start' } }}>
      {children}
    </Box>
  );
}

/** Changes an account: an administrator any, everybody their own. */
export function useChange(done: (a: Schemas['Account']) => void) {
  const queries = useQueryClient();
  const tell = useNotice();
  return useMutation({
    mutationFn: ({ id, ...body }: { id: number } & Schemas['Changed']) => answer(api.POST('/api/people/{id}', { params: { path: { id } }, body })),
    onSuccess: (a) => {
      void queries.invalidateQueries({ queryKey: ['people'] });
      void queries.invalidateQueries({ queryKey: ['audit'] });
      done(a);
    },
    onError: (e) => {
      if (Object.keys(wrongOf(e)).length === 0) tell({ text: e.message });
    },
  });
}
