import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { BoardOverlay } from './BoardOverlay.client';
import { Loupe } from './Loupe';
import { newHover } from './hover';
import { isComplete, nextOpen, type BoardItem, type BoardPoints } from './boardPoints';
import { Workbench } from './Workbench';
import type { Clip } from './useClip';
import { NUDGE_PX, usePointKeys, usePoints, type PointsOf } from './usePoints';

interface Props extends PointsOf {
  clip: Clip;
  lines: readonly (readonly [string, string])[];
  /** Proposed places, drawn over the film until they are taken or left. */
  ghosts?: Readonly<Record<string, { x: number; y: number; name: string }>> | null;
  /** Stands over the list. */
  tools?: ReactNode;
  /** Shown under the list when every needed point stands. */
  done: ReactNode;
  children?: ReactNode;
}

/** The chosen point and another change their places. */
function SwapWith({ items, onSwap }: { items: readonly BoardItem[]; onSwap: (other: string) => void }) {
  return (
    <TextField select size="small" label="Swap with" value="" onChange={(e) => onSwap(e.target.value)}>
      {items.map((i) => (
        <MenuItem key={i.key} value={i.key}>
          {i.plain}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** A board's points without one of them. */
function omit(points: BoardPoints, key: string): BoardPoints {
  const rest = { ...points };
  delete rest[key];
  return rest;
}

/** Where a point stands, or that it is still open. */
function whereItIs(item: BoardItem, p: BoardPoints[string] | undefined, snaps: boolean): string {
  if (!p) return item.optional ? 'optional' : 'open';
  const how = !snaps ? '' : p.onSticker ? ' · sticker' : ' · by eye';
  return `${p.x.toFixed(2)}, ${p.y.toFixed(2)} px${how}`;
}

/** The point to be placed next. @param place its number, and of how many */
function WantedItem({ item, place }: { item: BoardItem; place: [number, number] | null }) {
  return (
    <Box role="status">
      <Typography variant="overline" color="textSecondary">
        {item.optional ? 'If you can' : 'Point out'} {place && `${place[0]} of ${place[1]}`}
      </Typography>
      <Typography variant="h2" component="p">
        {item.name}
      </Typography>
      <Typography variant="body2" color="textSecondary">
        {item.place}
      </Typography>
      <Typography variant="body2" color="textSecondary">
        By keys: Enter puts it in the middle, arrows move it.
      </Typography>
    </Box>
  );
}

/**
 * Points asked for one after another on the film, each with a close-up; dragged, nudged with the arrow keys.
 * Every settled change goes to `onChange` at once, so nothing is lost when the page is left, and is undone as any other edit.
 */
export function PointBoard({
  clip,
  items,
  lines,
  stored,
  boundFrame,
  snap,
  onChange,
  busy,
  ghosts,
  tools,
  done,
  children,
}: Props) {
  const board = usePoints({ items, stored, busy, boundFrame, snap, onChange, shown: clip.shown });
  const { points, pointNow, selected, setSelected, elsewhere, settle, put, place } = board;
  const [pointer] = useState(newHover);
  const [more, setMore] = useState(false);

  const { state } = clip;
  const [width, height] = state.status === 'ready' ? [state.info.widthPx, state.info.heightPx] : [0, 0];
  const middle = useMemo(() => (width > 0 ? { x: width / 2, y: height / 2 } : null), [width, height]);

  usePointKeys({
    selected: elsewhere ? null : selected,
    pointOf: pointNow,
    middle,
    onPut: (key, at, pull) =>
      void put(key, at, pull).then((next) => pull && setSelected(nextOpen(items, next) ?? key)),
    onRemove: (key) => settle((now) => omit(now, key)),
  });

  useEffect(() => pointer.setState({ at: null }), [pointer, selected, points]);

  const asking = selected && !points[selected] ? items.find((i) => i.key === selected) : null;
  const inTurn = items.filter((i) => !i.onRequest);
  const listed = items.filter((i) => more || !i.onRequest || points[i.key] || i.key === selected);
  const chosen = selected ? points[selected] : null;
  return (
    <Workbench
      clip={clip}
      label="The film, one frame"
      overlay={(size) => (
        <BoardOverlay
          size={size}
          items={items}
          points={points}
          lines={lines}
          selected={selected}
          faded={elsewhere || Boolean(ghosts)}
          ghosts={ghosts}
          onHover={(at) => {
            // With a point chosen the close-up stays on it; while one is asked for it goes with the pointer.
            if (asking || !chosen) pointer.setState({ at });
          }}
          onPlace={(at) => void place(at)}
          onSelect={setSelected}
          onDrag={(at) => pointer.setState({ at })}
          onDrop={(key, at) => {
            pointer.setState({ at: null });
            void put(key, at, false);
          }}
        />
      )}
    >
      {!ghosts && <Loupe source={clip.canvas} at={chosen ?? null} pointer={pointer} frame={clip.shown} />}
      {elsewhere && (
        <Alert
          severity="info"
          variant="outlined"
          action={
            <Button size="small" onClick={() => clip.goTo(boundFrame!)}>
              Go there
            </Button>
          }
        >
          The marks stand on frame {boundFrame}.
        </Alert>
      )}
      {asking && !elsewhere && !ghosts && (
        <WantedItem
          item={asking}
          place={asking.onRequest ? null : [inTurn.indexOf(asking) + 1, inTurn.length]}
        />
      )}
      {chosen && !asking && (
        <Typography variant="body2" color="textSecondary">
          Drag it, or use the arrow keys: {NUDGE_PX} px a press, with Shift {NUDGE_PX * 8}. Enter draws it to
          its sticker, Delete removes it.
        </Typography>
      )}
      {chosen && !asking && selected && Object.keys(points).length > 1 && (
        <SwapWith
          items={items.filter((i) => i.key !== selected && points[i.key])}
          onSwap={(other) => settle((now) => ({ ...now, [selected]: now[other], [other]: now[selected] }))}
        />
      )}
      {tools}
      <Box role="list" aria-label="Points" sx={{ border: 1, borderColor: 'divider', flexShrink: 0 }}>
        {listed.map((item) => (
          <ListItemButton
            key={item.key}
            role="listitem"
            dense
            selected={item.key === selected}
            onClick={() => setSelected(item.key)}
            sx={{ minHeight: 40 }}
          >
            <ListItemText primary={item.plain} />
            <Typography variant="body2" color="textSecondary" data-testid={`point-${item.key}`}>
              {whereItIs(item, points[item.key], snap !== null)}
            </Typography>
          </ListItemButton>
        ))}
      </Box>
      {listed.length < items.length && (
        <Button size="small" onClick={() => setMore(true)} sx={{ alignSelf: 'flex-start' }}>
          {items.length - listed.length} more points…
        </Button>
      )}
      {isComplete(items, points) && done}
      {children}
    </Workbench>
  );
}
