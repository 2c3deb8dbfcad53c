import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import { Link } from 'react-router';
import { complaintName, openComplaints } from '../../../core/intake/intake.ts';
import { protocolUsed } from '../../../core/protocol/shelf.ts';
import type { Habits } from '../../../core/model/bodyModel.ts';
import type { FollowUp } from '../../../core/records/followUp.ts';
import type { Bike, FitSession } from '../../../core/records/types.ts';
import { TRASH_DAYS } from '../../../core/visit/visits.ts';
import { FieldPlace } from '../../session/useTyped';
import { DayField } from '../../ui/fields/DayField';
import { Sheet } from '../../ui/Desk';
import { PageDialog } from '../../ui/PageDialog';
import { WordsField } from '../../ui/fields/WordsField';

export type RiderRequest =
  | { what: 'name' | 'note' | 'email' | 'phone'; text: string }
  | { what: 'visit-day'; sessionId: string; day: string }
  | { what: 'delete' }
  | { what: 'restore' }
  | { what: 'bike' }
  | { what: 'bike-name' | 'bike-note'; bike: Bike; text: string }
  | { what: 'new'; bikeId: string }
  | { what: 'habits'; habits: Habits }
  | { what: 'due'; sessionId: string; list: FollowUp[] }
  | { what: 'again' | 'delete-session' | 'restore-session'; sessionId: string };

export type Ask = (wanted: RiderRequest) => void;

export function BikesSheet({
  bikes,
  ask,
}: {
  bikes: readonly { bike: Bike; visits: readonly FitSession[] }[];
  ask: Ask;
}) {
  return (
    <Sheet title="Bikes" note={`${bikes.length}`}>
      {bikes.map(({ bike, visits }) => (
        <Box
          key={bike.id}
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr auto' },
            gap: 2,
            py: 1.25,
            borderBottom: 1,
            borderColor: 'divider',
            alignItems: 'center',
          }}
        >
          <FieldPlace value={bike.id}>
            <WordsField
              label="Bike"
              most={200}
              value={bike.name}
              onChange={(text) => ask({ what: 'bike-name', bike, text })}
            />
            <WordsField
              label="Note"
              most={2000}
              value={bike.note}
              onChange={(text) => ask({ what: 'bike-note', bike, text })}
            />
          </FieldPlace>
          <Box>
            <Typography variant="body2" color="textSecondary" sx={{ textAlign: 'right' }}>
              {visits.length === 0
                ? 'no visit yet'
                : visits.length === 1
                  ? '1 visit'
                  : `${visits.length} visits`}
            </Typography>
            {visits.length > 0 ? (
              <Button size="small" onClick={() => ask({ what: 'again', sessionId: visits[0].id })}>
                New visit with this bike
              </Button>
            ) : (
              <Button size="small" onClick={() => ask({ what: 'new', bikeId: bike.id })}>
                First visit with this bike
              </Button>
            )}
          </Box>
        </Box>
      ))}
      <Button sx={{ mt: 1 }} onClick={() => ask({ what: 'bike' })}>
        Another bike
      </Button>
    </Sheet>
  );
}

export function VisitRow({
  visit,
  bike,
  ask,
  onDelete,
}: {
  visit: FitSession;
  bike: string;
  ask: Ask;
  onDelete: () => void;
}) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '170px 1fr auto' },
        gap: 2,
        py: 1,
        borderBottom: 1,
        borderColor: 'divider',
        alignItems: 'center',
      }}
    >
      <DayField
        label="Day of the visit"
        value={dayjs(visit.startedIso).format('YYYY-MM-DD')}
        onChange={(day) => day && ask({ what: 'visit-day', sessionId: visit.id, day })}
        error={null}
      />
      <Box>
        <Typography component={Link} to={`/sessions/${visit.id}`} color="textPrimary">
          {protocolUsed(visit).name}
          {`, ${bike}`}
        </Typography>
        <Typography variant="body2" color="textSecondary">
          {openComplaints(visit.intake.complaints)
            .map((c) => `${complaintName(c)} ${c.severity}`)
            .join('; ') || 'no open complaint'}
        </Typography>
      </Box>
      <Box>
        <Button size="small" onClick={() => ask({ what: 'again', sessionId: visit.id })}>
          New visit from this one
        </Button>
        <Button size="small" onClick={onDelete}>
          Delete…
        </Button>
      </Box>
    </Box>
  );
}

/** Asks once before a visit, or the rider with all of them, goes into the trash; says what goes. */
export function Deletion({
  of,
  rider,
  visits,
  films,
  onClose,
  onDelete,
}: {
  /** The rider, or a visit's id; null while nothing is to be deleted. */
  of: 'rider' | string | null;
  rider: string;
  visits: number;
  films: number;
  onClose: () => void;
  onDelete: () => void;
}) {
  return (
    <PageDialog open={of !== null} onClose={onClose}>
      <DialogTitle>{of === 'rider' ? `Delete ${rider}?` : 'Delete this visit?'}</DialogTitle>
      <DialogContent>
        {of === 'rider'
          ? `${visits} ${visits === 1 ? 'visit' : 'visits'} and ${films} ${films === 1 ? 'film' : 'films'} go with the rider.`
          : 'Its film, marks and figures go with it.'}{' '}
        They stay in the trash for {TRASH_DAYS} days and can be restored; then they are deleted for good.
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Keep</Button>
        <Button
          variant="contained"
          color="error"
          onClick={() => {
            onDelete();
            onClose();
          }}
        >
          Move to trash
        </Button>
      </DialogActions>
    </PageDialog>
  );
}
