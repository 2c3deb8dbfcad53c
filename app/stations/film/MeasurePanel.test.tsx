// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { needed, type Landmark } from '../../../core/landmarks/landmarks.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import type { ProposedPoint } from '../../../core/survey/proposal.ts';
import { CATALOGUE } from '../../demo/catalogue';
import { lookWithoutStickers } from '../../jobs/firstLook';
import { measureTake } from '../../jobs/survey';
import { settleAxle, settlePoint, surveyStore, type TakeSurvey } from '../../jobs/surveys';
import { drawn } from '../../ui/drawn.fixture';
import { MeasurePanel } from './MeasurePanel';

vi.mock('../../jobs/survey', async (original) => ({
  ...(await original<typeof import('../../jobs/survey')>()),
  measureTake: vi.fn(() => Promise.resolve(false)),
}));

vi.mock('../../jobs/firstLook', async (original) => ({
  ...(await original<typeof import('../../jobs/firstLook')>()),
  lookWithoutStickers: vi.fn(() => Promise.resolve(false)),
}));

const whole = CATALOGUE.sessions.find((s) => s.id === 'maren-1') as FitSession;
const take: Take = {
  ...whole.takes[0],
  view: 'drive',
  marks: {},
  axles: { rear: null, front: null },
  rims: {},
  tracking: { state: 'none', framesDone: 0, estimated: false, revision: 0 },
};
const visit = (wheelbaseMm: number | null): FitSession => ({
  ...whole,
  asFound: { ...whole.asFound, frame: { ...whole.asFound.frame, wheelbaseMm } },
});
const point = (k: number, sure = 1): ProposedPoint => ({ x: 10 * k, y: 20 * k, onSticker: true, sure });
const at = (x: number, y: number) => ({ x, y });

function survey(by: Partial<TakeSurvey> = {}): void {
  const points = Object.fromEntries(needed('drive').map((key, k) => [key, point(k + 1)]));
  surveyStore.setState({
    takes: {
      [take.id]: {
        verdict: { worth: 'good', points: [] },
        frame: 40,
        points,
        wheels: {
          rear: at(300, 400),
          front: at(700, 400),
          rims: {
            rearTop: at(300, 265),
            rearBottom: at(300, 535),
            frontTop: at(700, 265),
            frontBottom: at(700, 535),
          },
        },
        unmoved: false,
        cameraPath: null,
        facing: 'right',
        ...by,
      },
    },
  });
}
const now = (): TakeSurvey => surveyStore.getState().takes[take.id];
const film = new Blob(['film']);
const panel = (session = visit(1000)) => drawn(<MeasurePanel session={session} take={take} blob={film} />);
const measure = (): HTMLButtonElement => screen.getByRole('button', { name: 'Measure' });

beforeEach(() => vi.clearAllMocks());
afterEach(() => {
  cleanup();
  surveyStore.setState({ takes: {} });
});

describe('one press', () => {
  it('measures what is proposed, by button or by key, once nothing is open', async () => {
    survey();
    panel();
    expect(screen.getByText(/8 of 8 joints named, both wheels found/)).toBeTruthy();
    expect(measure().disabled).toBe(false);
    fireEvent.click(measure());
    await waitFor(() => expect(measureTake).toHaveBeenCalledTimes(1));
    fireEvent.keyDown(window, { key: 'm' });
    await waitFor(() => expect(measureTake).toHaveBeenCalledTimes(2));
    fireEvent.keyDown(window, { key: 'm', ctrlKey: true });
    expect(measureTake).toHaveBeenCalledTimes(2);
  });
  it('waits for the wheelbase, and takes it from the tyre where no tape is at hand', () => {
    survey();
    panel(visit(null));
    expect(measure().disabled).toBe(true);
    expect(screen.getByText('Waits for the wheelbase, or the tyre’s size.')).toBeTruthy();
    fireEvent.keyDown(window, { key: 'm' });
    expect(measureTake).not.toHaveBeenCalled();
    fireEvent.change(screen.getByLabelText('Or the tyre, as printed'), { target: { value: '28-622' } });
    // 400 px from axle to axle, tyres 270 px high and 678 mm.
    expect(screen.getByRole('button', { name: `Take ${Math.round((678 * 400) / 270)} mm` })).toBeTruthy();
  });
  it('waits for the axles, and says where they are pointed out', () => {
    survey({ wheels: null });
    panel();
    expect(measure().disabled).toBe(true);
    expect(screen.getByText('Waits for the axles.')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Scale' })).toBeTruthy();
  });
  it('takes axles that were pointed out by hand where the wheels were not found', () => {
    survey({ wheels: null });
    const byHand: Take = { ...take, axles: { rear: at(301, 402), front: at(699, 401) } };
    drawn(<MeasurePanel session={visit(1000)} take={byHand} blob={film} />);
    expect(measure().disabled).toBe(false);
    expect(screen.queryByText(/The wheels were not found/)).toBeNull();
  });
});

describe('what is unsure', () => {
  const proposing = (by: Partial<Record<Landmark, ProposedPoint | undefined>>): void =>
    survey({
      points: {
        ...Object.fromEntries(needed('drive').map((k, i) => [k, point(i + 1)])),
        ...by,
      } as TakeSurvey['points'],
    });
  it('is asked one by one: confirmed by a key, and nothing else is asked', async () => {
    proposing({ heel: point(4, 0.4), elbow: point(7, 0.2) });
    panel();
    expect(measure().disabled).toBe(true);
    const first = screen.getByRole('group', { name: 'Asked' }).textContent;
    expect(first).toMatch(/Is this the (heel|elbow)\?/);
    fireEvent.keyDown(window, { key: 'y' });
    await waitFor(() => expect(screen.getByRole('group', { name: 'Asked' }).textContent).not.toBe(first));
    fireEvent.keyDown(window, { key: 'y' });
    await waitFor(() => expect(screen.queryByRole('group', { name: 'Asked' })).toBeNull());
    expect(measure().disabled).toBe(false);
    expect(now().points.heel).toMatchObject({ x: 40, y: 80, sure: 1 });
  });
  it('that is not there is asked for by a tap, and a key does not pass over it', async () => {
    proposing({ knee: undefined });
    panel();
    expect(screen.getByText('Where is the knee?')).toBeTruthy();
    fireEvent.keyDown(window, { key: 'y' });
    expect(now().points.knee).toBeUndefined();
    settlePoint(take.id, 'knee', { x: 5, y: 6, onSticker: false });
    await waitFor(() => expect(screen.queryByText('Where is the knee?')).toBeNull());
    expect(measure().disabled).toBe(false);
  });
});

describe('the film itself', () => {
  it('is judged, each fault with its cure', () => {
    survey({
      verdict: {
        worth: 'again',
        points: [{ key: 'cuts', worth: 'again', words: 'A cut.', cure: 'Film anew.' }],
      },
    });
    panel();
    expect(screen.getByTestId('film-verdict').textContent).toBe('Film againA cut.Film anew.');
  });
  it('without a rider is judged, and nothing is measured', () => {
    survey({ frame: null, points: {}, facing: null });
    panel();
    expect(screen.getByText('Good film')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Measure' })).toBeNull();
  });
  it('without stickers can be looked at by the pose model, once wheels and wheelbase are there', async () => {
    survey({ frame: null, points: {}, facing: null });
    panel();
    const look = screen.getByRole<HTMLButtonElement>('button', { name: 'First look without stickers' });
    expect(look.disabled).toBe(false);
    fireEvent.click(look);
    await waitFor(() => expect(lookWithoutStickers).toHaveBeenCalledTimes(1));
    cleanup();
    panel(visit(null));
    expect(
      screen.getByRole<HTMLButtonElement>('button', { name: 'First look without stickers' }).disabled,
    ).toBe(true);
    cleanup();
    survey({ frame: null, points: {}, facing: null, wheels: null });
    panel();
    expect(screen.getByText(/The wheels were not found/)).toBeTruthy();
  });
});

it('an axle that is dragged takes its tyre’s ends along', () => {
  survey();
  settleAxle(take.id, 'front', at(704, 397));
  expect(now().wheels).toMatchObject({
    front: { x: 704, y: 397 },
    rear: { x: 300, y: 400 },
    rims: { frontTop: { x: 704, y: 262 }, frontBottom: { x: 704, y: 532 }, rearTop: { x: 300, y: 265 } },
  });
  settleAxle('another', 'front', at(1, 1));
  expect(Object.keys(surveyStore.getState().takes)).toEqual([take.id]);
});
