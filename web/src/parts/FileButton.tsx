import Button, { type ButtonProps } from '@mui/material/Button';
import { useRef, type ReactNode } from 'react';

interface Props {
  label: string;
  accept: string;
  variant: ButtonProps['variant'];
  onFile: (f: File) => void;
  busy?: boolean;
  children: ReactNode;
}

/** Lets a file be chosen. */
export function FileButton({ label, accept, variant, onFile, busy, children }: Props) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={chooser}
        type="file"
        hidden
        accept={accept}
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) onFile(file);
          e.target.value = ''; // the same one can be chosen again
        }}
      />
      <Button variant={variant} loading={busy} onClick={() => chooser.current?.click()}>
        {children}
      </Button>
    </>
  );
}
