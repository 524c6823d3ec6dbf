import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { createContext, useCallback, useContext, useState, type ReactNode } from 'react';

interface Notice {
  n?: number; // each has its own time
  text: string;
  action?: { name: string; act: () => void };
}

const NoticeContext = createContext<(n: Notice) => void>(() => {});

/** Says something in passing, with one thing to press. */
export function useNotice() {
  return useContext(NoticeContext);
}

export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const tell = useCallback((n: Notice) => setNotice((old) => ({ ...n, n: (old?.n ?? 0) + 1 })), []);
  return (
    <NoticeContext value={tell}>
      {children}
      <Snackbar
        key={notice?.n}
        open={notice !== null}
        autoHideDuration={8000}
        onClose={(_, why) => why !== 'clickaway' && setNotice(null)}
        message={notice?.text}
        action={
          notice?.action && (
            <Button
              size="small"
              color="inherit"
              onClick={() => {
                notice.action?.act();
                setNotice(null);
              }}
            >
              {notice.action.name}
            </Button>
          )
        }
      />
    </NoticeContext>
  );
}
