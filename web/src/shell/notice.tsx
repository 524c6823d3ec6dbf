import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { createContext, useCallback, useContext, useState, type ReactNode } from 'react';

interface Notice {
  text: string;
  action?: { name: string; act: () => void };
}

const NoticeContext = createContext<(n: Notice) => void>(() => {});

/** Says something in passing, with one thing to press. */
export function useNotice() {
  return useContext(NoticeContext);
}

/** Notices in a queue: the latest is shown with its own time; one that can be acted on, and was
    not yet, comes back when the latest is over. */
export function NoticeProvider({ children }: { children: ReactNode }) {
  const [queue, setQueue] = useState<(Notice & { n: number })[]>([]);
  const tell = useCallback((notice: Notice) => setQueue((q) => [...q.filter((old) => old.action).slice(-2), { ...notice, n: (q.at(-1)?.n ?? 0) + 1 }]), []);
  const shown = queue.at(-1);
  const over = () => setQueue((q) => q.slice(0, -1));
  return (
    <NoticeContext value={tell}>
      {children}
      <Snackbar
        key={shown?.n}
        open={shown !== undefined}
        autoHideDuration={8000}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}
        onClose={(_, why) => why !== 'clickaway' && over()}
        message={shown?.text}
        action={
          shown?.action && (
            <Button
              color="inherit"
              onClick={() => {
                shown.action?.act();
                over();
              }}
            >
              {shown.action.name}
            </Button>
          )
        }
      />
    </NoticeContext>
  );
}
