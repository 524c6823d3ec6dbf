import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { answer, api } from '../api';
import { Nothing, Page, Tools } from '../parts/Page';
import { Go, Press } from '../parts/Press';
import { Shape, statusColour } from '../parts/Verdict';
import { verdictWords } from '../words';
import { useOpenSaved, useRemove } from './saving';
import { When } from '../parts/When';

/** The pairings that were saved, the latest first. */
export function SavedSheet() {
  const remove = useRemove();
  const saved = useQuery({ queryKey: ['pairings'], queryFn: ({ signal }) => answer(api.GET('/api/pairings', { signal })) });
  const open = useOpenSaved();
  return (
    <Page>
      <Tools className="tools">
        <Typography variant="h1">{t`Saved pairings`}</Typography>
      </Tools>
      {saved.error && <Alert severity="error">{saved.error.message}</Alert>}
      {saved.isLoading && <Skeleton variant="rectangular" height={160} sx={{ maxWidth: 1000 }} />}
      {saved.data?.length === 0 && (
        <Nothing>
          <p>{t`No pairing has been saved yet.`}</p>
          <p>
            <Trans>On the <Go to="/">bench</Go>, press Save or Ctrl+S.</Trans>
          </p>
        </Nothing>
      )}
      {saved.data && saved.data.length > 0 && (
        <Table className="saved" sx={{ maxWidth: 1000 }}>
          <TableHead>
            <TableRow>
              <TableCell>{t`Pairing`}</TableCell>
              <TableCell>{t`Verdict`}</TableCell>
              <TableCell>{t`Saved`}</TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          <TableBody>
            {saved.data.map((p) => (
              <TableRow key={p.id}>
                <TableCell>
                  <Press onClick={() => void open(p.id)}>{p.title}</Press>
                </TableCell>
                <TableCell>
                  <Box component="span" sx={{ color: statusColour[p.verdict] }}>
                    <Shape of={p.verdict} /> {verdictWords[p.verdict]}
                  </Box>
                </TableCell>
                <TableCell><When at={p.saved_at} /></TableCell>
                <TableCell>
                  <Button color="inherit" onClick={() => remove.mutate(p.id)}>
                    {t`Remove`}
                  </Button>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </Page>
  );
}
