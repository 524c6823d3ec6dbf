import { t } from '@lingui/core/macro';
import Link from '@mui/material/Link';
import type { ComponentProps } from 'react';
import { Link as RouterLink } from 'react-router';

type Props = Omit<ComponentProps<typeof Link<'button'>>, 'component'>;

/** Something to press in running text or a list, that looks like a link. */
export function Press(props: Props) {
  return <Link component="button" type="button" {...props} className={`press ${props.className ?? ''}`.trim()} sx={[look, ...(Array.isArray(props.sx) ? props.sx : [props.sx])]} />;
}

const look = {
  textAlign: 'left',
  verticalAlign: 'baseline',
  font: 'inherit',
  minHeight: 24,
  '&:disabled': { color: 'text.disabled', textDecoration: 'none', cursor: 'default' },
  '@media (pointer: coarse)': { minHeight: 44, minWidth: 44 },
} as const;

/** Leads to another screen. */
export function Go({ to, children }: { to: string; children: React.ReactNode }) {
  return (
    <Link component={RouterLink} to={to}>
      {children}
    </Link>
  );
}

/** Takes something out of a list. */
export function Remove({ what, act }: { what: string; act: () => void }) {
  return (
    <Press className="remove" aria-label={t`Remove ${what}`} title={t`Remove ${what}`} underline="none" onClick={act} sx={{ px: 1.5, fontSize: 16, minWidth: 24, textAlign: 'center' }}>
      ×
    </Press>
  );
}
