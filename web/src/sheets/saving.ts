import { useMutation, useQueryClient } from '@tanstack/react-query';
import { answer, api, type Question } from '../api';
import { useNotice } from './notice';

/** Takes a saved pairing off the list; it can be brought back. */
export function useRemove() {
  const queries = useQueryClient();
  const tell = useNotice();
  const again = () => void queries.invalidateQueries({ queryKey: ['pairings'] });
  return useMutation({
    mutationFn: (id: number) => answer(api.DELETE('/api/pairings/{id}', { params: { path: { id: String(id) } } })),
    onSuccess: (_, id) => {
      again();
      tell({
        text: 'Taken off the list.',
        action: {
          name: 'Undo',
          act: () =>
            void answer(api.POST('/api/pairings/{id}/restore', { params: { path: { id: String(id) } } }))
              .then(again)
              .catch((e: Error) => tell({ text: e.message })),
        },
      });
    },
    onError: (e) => tell({ text: e.message }),
  });
}

/** Saves the pairing that is asked. */
export function useSave() {
  const queries = useQueryClient();
  const tell = useNotice();
  const remove = useRemove();
  return useMutation({
    mutationFn: (q: Question) => answer(api.POST('/api/pairings', { body: q })),
    onSuccess: (saved) => {
      void queries.invalidateQueries({ queryKey: ['pairings'] });
      void queries.invalidateQueries({ queryKey: ['displays'] });
      tell({ text: `Saved: ${saved.title}.`, action: { name: 'Undo', act: () => remove.mutate(saved.id) } });
    },
    onError: (e) => tell({ text: `Not saved. ${e.message}` }),
  });
}
