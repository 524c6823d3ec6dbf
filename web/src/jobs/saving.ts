import { t } from '@lingui/core/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { answer, api, type Request } from '../api';
import { useWorkspace } from '../state/workspace';
import { nothing } from '../state/inputs';
import { useNotice } from '../shell/notice';

/** Takes a saved pairing off the list; it can be brought back. */
export function useRemove() {
  const queries = useQueryClient();
  const tell = useNotice();
  const again = () => void queries.invalidateQueries({ queryKey: ['jobs'] });
  return useMutation({
    mutationFn: (id: number) => answer(api.DELETE('/api/pairings/{id}', { params: { path: { id: String(id) } } })),
    onSuccess: (_, id) => {
      again();
      tell({
        text: t`Taken off the list.`,
        action: {
          name: t`Undo`,
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

/** Opens a saved pairing on the bench, as it was. */
export function useOpenSaved() {
  const { askThere } = useWorkspace();
  const go = useNavigate();
  const tell = useNotice();
  return async (id: number) => {
    try {
      const p = await answer(api.GET('/api/pairings/{id}', { params: { path: { id: String(id) } } }));
      const q = p.request;
      askThere({
        ...nothing,
        typed: q.display ?? null,
        display: p.display,
        bracket: p.bracket,
        ownBracket: q.bracket ?? null,
        turn: q.turn_deg ?? 0,
        wall: q.wall ?? nothing.wall,
        center: q.center_mm === undefined ? null : { text: String(q.center_mm), unit: 'mm' },
        topHoles: q.top_holes_mm ?? null,
        spacers: q.arm_clearance_mm ?? null,
        tilt: q.tilt_deg ?? 0,
        swivel: q.swivel_deg ?? 0,
        site: q.site ?? null,
        schools: (q.policy ?? {}) as Record<string, string>, // every setting, as it was
        changes: q.accessories_kg ? { accessories_kg: { text: `${q.accessories_kg} kg`, unit: 'mm' } } : {},
      });
      void go('/');
    } catch (e) {
      tell({ text: (e as Error).message });
    }
  };
}

/** Saves the pairing that is asked. */
export function useSave() {
  const queries = useQueryClient();
  const tell = useNotice();
  const remove = useRemove();
  return useMutation({
    mutationFn: (q: Request) => answer(api.POST('/api/pairings', { body: q })),
    onSuccess: (saved) => {
      void queries.invalidateQueries({ queryKey: ['jobs'] });
      void queries.invalidateQueries({ queryKey: ['displays'] });
      tell({ text: t`Saved: ${saved.title}.`, action: { name: t`Undo`, act: () => remove.mutate(saved.id) } });
    },
    onError: (e) => tell({ text: t`Not saved. ${e.message}` }),
  });
}
