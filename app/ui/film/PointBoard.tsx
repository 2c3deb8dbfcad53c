import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState, type ReactNode } from 'react';
import type { ImagePoint } from '../../../core/math/vec.ts';
import { holdTyped, typedHandedOver } from '../../storage/saveState';
import { BoardOverlay } from './BoardOverlay.client';
import { Loupe } from './Loupe';
import { newHover } from './hover';
import { isComplete, nextOpen, samePoints, type BoardItem, type BoardPoints } from './boardPoints';
import { Workbench } from './Workbench';
import type { Clip } from './useClip';

interface Props {
  clip: Clip;
  items: readonly BoardItem[];
  lines: readonly (readonly [string, string])[];
  stored: BoardPoints;
  /** The frame that the stored points belong to; null where they hold on every frame. */
  boundFrame: number | null;
  /** Pulls a place to the sticker under it; null for points that carry no sticker. */
  snap: ((frame: number, at: ImagePoint) => Promise<ImagePoint | null>) | null;
  onChange: (points: BoardPoints, frame: number) => void;
  /** While edits are on their way, what is stored lags behind what stands here. */
  busy: boolean;
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

const NUDGE_PX = 0.25;

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
function AskedFor({ item, place }: { item: BoardItem; place: [number, number] | null }) {
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
 * The points of a board: shown at once, handed over with every settled change, and following what is stored.
 * @param shown the frame that the film stands on
 */
function usePoints({
  items,
  stored,
  busy,
  boundFrame,
  snap,
  onChange,
  shown,
}: Pick<Props, 'items' | 'stored' | 'busy' | 'boundFrame' | 'snap' | 'onChange'> & { shown: number }) {
  const [points, setPoints] = useState<BoardPoints>(stored);
  const [selected, setSelected] = useState<string | null>(nextOpen(items, stored));
  const live = useRef(points);
  /** Points that are placed and whose stickers are being looked for. */
  const placing = useRef(0);
  const storedJson = JSON.stringify(stored);
  useEffect(() => {
    // An undo, or another tab: what is stored now is shown.
    const now = JSON.parse(storedJson) as BoardPoints;
    // Stored meanwhile was what stood before a point that is being placed: it would go, and be asked for again.
    if (busy || placing.current > 0 || samePoints(now, live.current)) return;
    live.current = now;
    setPoints(now);
    // A point that was chosen meanwhile stays chosen.
    setSelected((chosen) => (chosen && now[chosen] ? chosen : nextOpen(items, now)));
  }, [busy, storedJson, items]);

  const count = Object.keys(points).length;
  const elsewhere = boundFrame !== null && count > 0 && shown !== boundFrame;
  const frame = boundFrame !== null && count > 0 ? boundFrame : shown;

  const settle = useCallback(
    (change: (now: BoardPoints) => BoardPoints): BoardPoints => {
      const next = change(live.current);
      setPoints(next);
      live.current = next;
      onChange(next, frame);
      return next;
    },
    [onChange, frame],
  );

  const put = useCallback(
    async (key: string, at: ImagePoint, pull: boolean) => {
      // Placed, and not handed over before its sticker is found: that is not saved yet.
      const name = `placing ${key}`;
      if (pull && snap) holdTyped(name);
      placing.current += 1;
      try {
        const centre = pull && snap ? await snap(frame, at) : null;
        return settle((now) => ({ ...now, [key]: { ...(centre ?? at), onSticker: centre !== null } }));
      } finally {
        placing.current -= 1;
        typedHandedOver(name);
      }
    },
    [snap, frame, settle],
  );

  const place = async (at: ImagePoint): Promise<void> => {
    if (elsewhere) return;
    // What a click before this one has put stands already, whether or not its sticker has been found yet.
    const key = selected && !live.current[selected] ? selected : nextOpen(items, live.current);
    if (!key) {
      setSelected(null);
      return;
    }
    const next = { ...live.current, [key]: { ...at, onSticker: false } };
    live.current = next;
    setPoints(next);
    setSelected(nextOpen(items, next) ?? key);
    await put(key, at, true);
  };
  const pointNow = (key: string): ImagePoint | null => live.current[key] ?? null;
  return { points, pointNow, selected, setSelected, elsewhere, settle, put, place };
}

/**
 * The chosen point by keys. Without a pointer Enter puts what is asked for into the middle, arrows move it, Enter draws it to its
 * sticker.
 */
function usePointKeys({
  selected,
  pointOf,
  middle,
  onPut,
  onRemove,
}: {
  /** Null while none can be moved. */
  selected: string | null;
  pointOf: (key: string) => ImagePoint | null;
  middle: ImagePoint | null;
  /** @param pull it is drawn to its sticker */
  onPut: (key: string, at: ImagePoint, pull: boolean) => void;
  onRemove: (key: string) => void;
}): void {
  const press = useEffectEvent((e: KeyboardEvent): void => {
    if (e.target instanceof HTMLInputElement && e.target.type !== 'range') return;
    if (e.ctrlKey || e.metaKey || !selected) return;
    const point = pointOf(selected);
    if (e.key === 'Enter' && (e.target === document.body || e.target instanceof HTMLCanvasElement)) {
      e.preventDefault();
      if (point) onPut(selected, point, true);
      else if (middle) onPut(selected, middle, false);
      return;
    }
    if (!point) return;
    const by = NUDGE_PX * (e.shiftKey ? 8 : 1);
    const move: Record<string, ImagePoint> = {
      ArrowLeft: { x: -by, y: 0 },
      ArrowRight: { x: by, y: 0 },
      ArrowUp: { x: 0, y: -by },
      ArrowDown: { x: 0, y: by },
    };
    if (e.key === 'Delete' || e.key === 'Backspace') {
      e.preventDefault();
      onRemove(selected);
    } else if (move[e.key]) {
      e.preventDefault();
      onPut(selected, { x: point.x + move[e.key].x, y: point.y + move[e.key].y }, false);
    }
  });
  useEffect(() => {
    // Before the slider of the transport or a focused list takes the arrow keys for itself.
    const onKey = (e: KeyboardEvent): void => press(e);
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, []);
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
        <AskedFor
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
