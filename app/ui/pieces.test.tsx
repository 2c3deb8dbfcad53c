// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import dayjs from 'dayjs';
import { useState } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Change } from '../../core/plan/terms/change.ts';
import { NOT_RIDDEN } from '../../core/kinematics/ridden.ts';
import type { FollowUp } from '../../core/records/followUp.ts';
import { CATALOGUE } from '../demo/catalogue';
import { BandGauge } from '../charts/BandGauge';
import { jobStore, runJob } from '../jobs/jobs';
import { noticeStore, notify } from '../session/notices';
import { NextBar } from '../stations/NextBar';
import { StationRuler } from '../stations/StationRuler';
import { Welcome } from '../studio/riders/Welcome';
import { stationsOf } from '../../core/visit/stations.ts';
import { NEW_STUDIO } from '../../core/records/types.ts';
import { NextAction, NextPlace } from './NextAction';
import { NewRider } from '../studio/riders/NewRider';
import { Choice } from './fields/Choice';
import { drawn } from './drawn.fixture';
import { Figure } from './Figure';
import { FileField } from './fields/FileField';
import { FollowUps } from './FollowUps';
import { JobsLine } from './JobsLine';
import { Moves } from './Moves';
import { NeedsFirst } from './NeedsFirst';
import { NoticeBar } from './NoticeBar';
import { OnceMore } from './OnceMore';
import { PlainHttp } from './PlainHttp';
import { RouteTrouble } from './RouteTrouble';
import { SuspectList } from './SuspectList';
import { Working } from './Working';

beforeEach(() => {
  noticeStore.setState({ notice: null });
  jobStore.setState({ jobs: {}, outcomes: {} });
});
afterEach(cleanup);

const maren = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;

describe('follow-ups', () => {
  const Kept = ({ first, heard }: { first: FollowUp[]; heard: (l: FollowUp[]) => void }) => {
    const [list, setList] = useState(first);
    return (
      <FollowUps
        list={list}
        onChange={(next) => {
          heard(next);
          setList(next);
        }}
      />
    );
  };
  const one: FollowUp = { id: 'a', due: '2020-02-03', why: 'Call', doneIso: null };

  it('one on a day of one’s own asks for the day first, then is added and the form is empty again', async () => {
    const heard = vi.fn();
    drawn(<Kept first={[]} heard={heard} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add' }));
    expect(await screen.findByText('Choose the day.')).toBeTruthy();
    expect(heard).not.toHaveBeenCalled();
    await userEvent.click(screen.getByRole('spinbutton', { name: 'Day' }));
    await userEvent.keyboard('04Mar2031');
    await userEvent.type(screen.getByLabelText('What for'), ' Shoes {Enter}');
    await vi.waitFor(() => expect(heard).toHaveBeenCalledTimes(1));
    expect(heard.mock.calls[0][0]).toMatchObject([{ due: '2031-03-04', why: 'Shoes', doneIso: null }]);
    expect(screen.getByLabelText<HTMLInputElement>('What for').value).toBe('');
    expect(screen.getByText('4 Mar 2031')).toBeTruthy();
  });
  it('is proposed by the usual rhythm, each once', async () => {
    const heard = vi.fn();
    drawn(<Kept first={[]} heard={heard} />);
    await userEvent.click(screen.getByRole('button', { name: 'In 7 weeks' }));
    expect(heard.mock.calls[0][0][0].due).toBe(dayjs().add(7, 'week').format('YYYY-MM-DD'));
    expect(screen.queryByRole('button', { name: 'In 7 weeks' })).toBeNull();
    expect(screen.getByRole('button', { name: 'In a year' })).toBeTruthy();
  });
  it('is ticked off and back, and removed by itself', async () => {
    const heard = vi.fn();
    drawn(<Kept first={[one, { ...one, id: 'b', due: '2020-01-01', why: 'First' }]} heard={heard} />);
    const [first] = screen.getAllByRole('checkbox');
    await userEvent.click(first);
    expect(heard.mock.lastCall![0].find((f: FollowUp) => f.id === 'b').doneIso).not.toBeNull();
    await userEvent.click(first);
    expect(heard.mock.lastCall![0].find((f: FollowUp) => f.id === 'b').doneIso).toBeNull();
    await userEvent.click(screen.getAllByRole('button', { name: 'Remove' })[1]);
    expect(heard.mock.lastCall![0].map((f: FollowUp) => f.id)).toEqual(['b']);
  });
  it('shows what was just done though it is not stored yet, and what another hand stored once it is', () => {
    const { rerender } = render(<FollowUps list={[one]} onChange={() => undefined} />);
    fireEvent.click(screen.getByRole('button', { name: 'Remove' }));
    expect(screen.queryByText('Call')).toBeNull();
    rerender(<FollowUps list={[{ ...one, why: 'Elsewhere' }]} onChange={() => undefined} />);
    expect(screen.getByText(/Elsewhere/)).toBeTruthy();
  });
});

it('what goes on for a moment is said once to who hears it, and in words to who sees it', () => {
  render(<Working words="Reading the films" />);
  expect(screen.getByRole('progressbar', { name: 'Reading the films' })).toBeTruthy();
  expect(screen.getByText('Reading the films…').getAttribute('aria-hidden')).toBe('true');
});

describe('a new rider', () => {
  it('is asked for a name in words, and not sent without one', async () => {
    drawn(<NewRider open onClose={() => undefined} refused={null} />, { at: '/riders' });
    await userEvent.type(screen.getByLabelText('Name'), '   {Enter}');
    expect(await screen.findByText('Type the rider’s name.')).toBeTruthy();
  });
  it('that was refused says why; Cancel closes', async () => {
    const close = vi.fn();
    drawn(<NewRider open onClose={close} refused="The device is full." />, { at: '/riders' });
    expect(screen.getByText('The device is full.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    expect(close).toHaveBeenCalled();
  });
});

describe('a first visit', () => {
  it('sets the studio up, under a name at the least, or is put off', async () => {
    const later = vi.fn();
    drawn(<Welcome studio={NEW_STUDIO} onLater={later} />, { at: '/riders' });
    await userEvent.click(screen.getByRole('button', { name: 'Look around first' }));
    expect(later).toHaveBeenCalledTimes(1);
    await userEvent.click(screen.getByRole('button', { name: 'Set up your studio…' }));
    await userEvent.click(await screen.findByRole('button', { name: 'US Letter' }));
    await userEvent.click(screen.getByRole('button', { name: 'Open the studio' }));
    expect(await screen.findByText('Type the studio’s name.')).toBeTruthy();
    await userEvent.type(screen.getByLabelText('Studio'), 'Mill Lane');
    await userEvent.click(screen.getByRole('button', { name: 'Open the studio' }));
    await vi.waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });
});

describe('what happened, and what is under way', () => {
  it('a notice stands over the page with its Undo, which is done once', async () => {
    const undo = vi.fn();
    drawn(<NoticeBar />);
    act(() => notify('“Film” removed.', undo));
    await userEvent.click(await screen.findByRole('button', { name: 'Undo' }));
    expect(undo).toHaveBeenCalledTimes(1);
    expect(noticeStore.getState().notice).toBeNull();
  });
  it('a job of another page is shown with its share, leads back there, and is stopped', async () => {
    let tell: (done: number, of: number | null) => void = () => undefined;
    const end = runJob('a', {
      label: 'Tracking ride.mp4',
      to: '/sessions/x/track',
      work: (handle) =>
        new Promise(() => {
          tell = handle.tell;
        }),
    });
    drawn(<JobsLine />, { at: '/sessions/x/bike' });
    act(() => tell(25, 100));
    expect(await screen.findByText('25 %', {}, { timeout: 3000 })).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Tracking ride.mp4' }).getAttribute('href')).toBe(
      '/sessions/x/track',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Stop' }));
    expect(await end).toMatchObject({ ok: false, stopped: true });
    await vi.waitFor(() => expect(screen.queryByText('Tracking ride.mp4')).toBeNull());
  });
  it('a job of this very page is not shown twice', async () => {
    void runJob('b', { label: 'Reading', to: '/sessions/x/track', work: () => new Promise(() => undefined) });
    drawn(<JobsLine />, { at: '/sessions/x/track' });
    await new Promise((next) => setTimeout(next, 600));
    expect(screen.queryByText('Reading')).toBeNull();
  });
});

describe('small parts', () => {
  it('a choice is taken back by tapping it again', async () => {
    const heard = vi.fn();
    const options = [
      ['a', 'first'],
      ['b', 'second'],
    ] as const;
    const { rerender } = render(<Choice label="Which" options={options} value={null} onChange={heard} />);
    await userEvent.click(screen.getByRole('button', { name: 'second' }));
    expect(heard).toHaveBeenLastCalledWith('b');
    rerender(<Choice label="Which" options={options} value="b" onChange={heard} />);
    await userEvent.click(screen.getByRole('button', { name: 'second' }));
    expect(heard).toHaveBeenLastCalledWith(null);
    expect(screen.getByRole('group', { name: 'Which' })).toBeTruthy();
  });
  it('a file is handed over, and the same one may be chosen again', async () => {
    const heard = vi.fn();
    render(<FileField accept=".csv" testId="field" onFile={heard} />);
    const field = screen.getByTestId<HTMLInputElement>('field');
    const file = new File(['x'], 'tracks.csv', { type: 'text/csv' });
    await userEvent.upload(field, file);
    await userEvent.upload(field, file);
    expect(heard).toHaveBeenCalledTimes(2);
    expect(heard.mock.calls[0][0].name).toBe('tracks.csv');
  });
  it('a figure stands with its unit, a page that lacks something with the way there', () => {
    drawn(
      <>
        <Figure name="Knee" value="37.2°" plusMinus="± 5.1°" testId="knee" />
        <NeedsFirst title="No film yet" text="Film first." to="../film" action="Go to Film" />
      </>,
    );
    expect(screen.getByTestId('knee').textContent).toBe('37.2° ± 5.1°');
    expect(screen.getByRole('link', { name: 'Go to Film' }).getAttribute('href')).toBe(
      '/sessions/a-visit/film',
    );
  });
  it('the pointer of a gauge stands over its band, at its edge or beyond it, and never out of the picture', () => {
    const at = (value: number): number => {
      cleanup();
      drawn(<BandGauge value={value} uncertainty={2} band={{ low: 33, high: 42 }} verdict="in" />);
      return Number(/M([\d.]+),/.exec(screen.getByTestId('pointer').getAttribute('d')!)![1]);
    };
    const [low, middle, high] = [at(33), at(37.5), at(42)];
    expect(middle).toBeCloseTo(50, 6);
    expect(low).toBeLessThan(middle);
    expect(high - middle).toBeCloseTo(middle - low, 6);
    expect(at(-200)).toBeGreaterThanOrEqual(6);
    expect(at(400)).toBeLessThanOrEqual(94);
  });
  it('a plain address from another device is said, a secure one is not', () => {
    const { rerender } = render(<PlainHttp />);
    const insecure = (yes: boolean) =>
      Object.defineProperty(window, 'isSecureContext', { configurable: true, value: !yes });
    insecure(true);
    rerender(<PlainHttp key="again" />);
    expect(screen.getByText(/plain http/)).toBeTruthy();
    insecure(false);
    rerender(<PlainHttp key="secure" />);
    expect(screen.queryByText(/plain http/)).toBeNull();
  });
  it('a page that can’t go on says what happened, and that nothing is lost', () => {
    render(<RouteTrouble error={new Error('The worker’s file is gone.')} />);
    expect(screen.getByRole('alert').textContent).toContain('The worker’s file is gone.');
    expect(screen.getByRole('alert').textContent).toContain('kept on this device');
    cleanup();
    render(<RouteTrouble error={undefined} bare />);
    expect(screen.getByRole('alert').textContent).toContain('without saying what');
  });
});

describe('a visit in parts', () => {
  it('the ruler leads to every station, in working order, and marks the open one', () => {
    drawn(<StationRuler stations={stationsOf(maren)} visitId="maren-1" />, {
      at: '/sessions/maren-1/read',
    });
    const links = within(screen.getByRole('navigation', { name: 'Stations' })).getAllByRole('link');
    const names = 'Intake Body Bike Film Scale Mark Track Read Plan Trial Hand'.split(' ');
    expect(links).toHaveLength(names.length);
    links.forEach((link, i) => expect(link.textContent).toMatch(new RegExp(`^${i + 1} ${names[i]}`)));
    expect(links.filter((l) => l.getAttribute('aria-current') === 'page')).toHaveLength(1);
    expect(links[7].getAttribute('aria-current')).toBe('page');
  });
  it('what is next stands under every station: what is missing there, its own act, the way on', () => {
    const Bar = ({ act: own }: { act: string | null }) => {
      const [place, setPlace] = useState<HTMLElement | null>(null);
      return (
        <NextPlace value={place}>
          {own && (
            <NextAction>
              <button>{own}</button>
            </NextAction>
          )}
          <NextBar
            stations={stationsOf({ ...maren, plan: null, final: null })}
            visitId="maren-1"
            place={setPlace}
          />
        </NextPlace>
      );
    };
    drawn(<Bar act="Keep this plan" />, { at: '/sessions/maren-1/plan' });
    const bar = screen.getByRole('region', { name: 'What is next' });
    expect(bar.textContent).toContain('The plan is not kept yet.');
    expect(within(bar).getByRole('button', { name: 'Keep this plan' })).toBeTruthy();
    expect(within(bar).getByRole('link').getAttribute('href')).toBe('/sessions/maren-1/trial');
    cleanup();
    drawn(<Bar act={null} />, { at: '/sessions/maren-1/handover' });
    expect(screen.getByTestId('lacks').textContent).toBe('Not handed over yet.');
    expect(screen.getByRole('link', { name: 'All riders' }).getAttribute('href')).toBe('/');
    // Measured, the film leads to its figures; a take without tracks leads to what is missing.
    cleanup();
    drawn(<Bar act={null} />, { at: '/sessions/maren-1/film' });
    expect(screen.getByRole('link', { name: 'Next: Read' })).toBeTruthy();
    cleanup();
    drawn(<Bar act={null} />, { at: '/sessions/maren-1/scale' });
    expect(screen.getByRole('link', { name: 'Next: Mark' })).toBeTruthy();
  });
  it('what was moved stands newest first, with the rider’s word and the way back', async () => {
    const change = (id: string, to: number, putBackIso: string | null = null): Change => ({
      id,
      madeIso: '2026-11-20T10:00:00.000Z',
      round: 1,
      lineKey: null,
      values: [{ at: 'saddle.heightMm', from: 700, to }],
      word: null,
      felt: [],
      note: '',
      tests: {},
      ridden: NOT_RIDDEN,
      measured: null,
      putBackIso,
    });
    const [word, back] = [vi.fn(), vi.fn()];
    drawn(
      <Moves
        changes={[change('a', 703), change('b', 706), change('c', 709, '2026-11-20T11:00:00.000Z')]}
        onWord={word}
        onPutBack={back}
      />,
    );
    const items = screen.getAllByRole('listitem');
    expect(items.map((i) => /→ (\d+)/.exec(i.textContent)![1])).toEqual(['709', '706', '703']);
    await userEvent.click(within(items[1]).getByRole('button', { name: 'Undo this change' }));
    expect(back).toHaveBeenCalledWith('b');
    expect(within(items[0]).queryByRole('button', { name: 'Undo this change' })).toBeNull();
    await userEvent.click(within(items[2]).getByRole('button', { name: /etter/ }));
    expect(word).toHaveBeenCalledWith('a', 'better');
  });
  it('a second film is asked for only while nothing was moved and none repeats the first', () => {
    const take = maren.takes.find((t) => t.tracking.state === 'done')!;
    const blank = { ...maren, changes: [], takes: [{ ...take, baselineOf: null }] };
    const asks = (s: typeof maren, t = take): boolean => {
      cleanup();
      drawn(<OnceMore session={s} take={t} to="../film" />);
      return screen.queryByTestId('once-more') !== null;
    };
    expect(asks(blank)).toBe(true);
    expect(asks({ ...blank, changes: maren.changes })).toBe(maren.changes.length === 0);
    expect(asks({ ...blank, takes: [{ ...take, baselineOf: take.id }] })).toBe(false);
    expect(asks(blank, { ...take, tracking: { ...take.tracking, state: 'none' } })).toBe(false);
  });
  it('suspects: the first three open, the rest a tap away; none without a complaint', () => {
    drawn(<SuspectList list={[]} />);
    expect(screen.getByText(/No complaint so far/)).toBeTruthy();
    cleanup();
    const suspect = (k: number) => ({
      key: `suspect${k}` as never,
      what: `suspect ${k}`,
      score: 1 - 0.1 * k,
      for: [`for ${k}`],
      against: [`against ${k}`],
      unknown: [],
      test: 'a test',
      change: 'a change',
    });
    const [complaint] = maren.intake.complaints;
    drawn(
      <SuspectList
        list={[{ complaint, name: 'front of knee', suspects: [1, 2, 3, 4, 5].map(suspect) as never }]}
      />,
    );
    const region = screen.getByRole('region', { name: 'Suspects: front of knee' });
    expect(within(region).getByText(/^Then: suspect 4, suspect 5$/)).toBeTruthy();
    expect(within(region).getByText('+ for 1')).toBeTruthy();
    expect(within(region).getByText('− against 1')).toBeTruthy();
  });
});
