/**
 * npm run bench: speed as ratios measured in one run, since machines differ and are noisy. Needs a build and Chromium.
 */
import { measureBrowser } from './bench/browser.ts';
import { comparePeer, whileSearching } from './bench/peer.ts';
import { comparePlans } from './bench/plans.ts';

const line = (name: string, text: string): void => console.log(`${name.padEnd(34)} ${text}`);

const { ours, peer } = await comparePeer(180);
console.log('Eight landmarks on the same 180 rendered frames, 720p, Node');
line(
  'this tracker',
  `${ours.msPerFrame.toFixed(2)} ms a frame; median error ${Math.max(...ours.medianPx).toFixed(2)} px at the worst landmark; lost: ${ours.lost.join(', ') || 'none'}`,
);
line(
  'OpenCV pyramidal Lucas–Kanade',
  `${peer.msPerFrame.toFixed(2)} ms a frame; median error ${Math.max(...peer.medianPx).toFixed(2)} px at the worst landmark; lost: ${peer.lost.join(', ') || 'none'}`,
);
const searching = whileSearching();
line(
  'this tracker, two of eight lost',
  `${searching.msPerFrame.toFixed(2)} ms a frame (goal 4); lost on ${searching.lostFrames} of ${searching.frames} frames`,
);
line('ratio of time, peer to this', `${(peer.msPerFrame / ours.msPerFrame).toFixed(1)}`);

console.log(
  '\nA plan from scratch, Node, the median of 21 after three, beside reading the same film’s tracks',
);
for (const p of comparePlans())
  line(
    p.rider,
    `prescription ${p.planMs.toFixed(0)} ms (goal 100); reading ${p.readMs.toFixed(0)} ms; ratio ${(p.planMs / p.readMs).toFixed(2)}`,
  );

const b = await measureBrowser();
console.log('\nDemo clips in Chromium, the round with the median ratio of five');
for (const c of b.clips) {
  line(
    c.clip,
    `bare decode ${c.decodeFps.toFixed(0)} frames/s; decode and track ${c.trackFps.toFixed(0)} frames/s; ratio ${c.ratio.toFixed(2)} (goal 0.90); tracker ${c.trackerMs.toFixed(2)} ms a frame (goal 1.5)`,
  );
}
for (const c of b.clips)
  line(
    `${c.clip}, looked at as a whole`,
    `${(c.surveyMs / 1000).toFixed(1)} s for ${c.filmS.toFixed(0)} s of film at 720p (goal 3 s for 6 s), ${(c.surveyMs / c.decodeMs).toFixed(1)} × bare decode`,
  );
console.log('\nThe page');
const median = (list: readonly number[]): number => [...list].sort((x, y) => x - y)[list.length >> 1];
line(
  'riders on the page, new browser',
  `${median(b.readyMs.map((t) => t.riders)).toFixed(0)} ms, the framework's page with nothing on it ${median(b.readyMs.map((t) => t.empty)).toFixed(0)} ms, medians of ${b.readyMs.length} by turns; median of their ratios ${median(b.readyMs.map((t) => t.riders / t.empty)).toFixed(2)} (goal 1.2), from ${Math.min(...b.readyMs.map((t) => t.riders / t.empty)).toFixed(2)} to ${Math.max(...b.readyMs.map((t) => t.riders / t.empty)).toFixed(2)}`,
);
line(
  'typing in Bike',
  `a key is drawn in ${b.typing.longestKeyMs.toFixed(0)} ms at the most (goal 50), longest task ${b.typing.longestTaskMs.toFixed(0)} ms (none over 50 is 0)`,
);
line(
  'End and Home',
  `answered in ${Math.max(...b.jumps.answeredMs).toFixed(0)} ms at the most, by the picture or by the sign that it comes (goal 100); the picture in ${median(b.jumps.pictureMs).toFixed(0)} ms, at most ${Math.max(...b.jumps.pictureMs).toFixed(0)}`,
);
const { rounds } = b;
line(
  `${rounds.rounds} × Film, Track, Read`,
  `DOM nodes ${rounds.nodes.join(' → ')}, heap ${rounds.heapMb.map((m) => m.toFixed(1)).join(' → ')} MB, process ${rounds.processMb.map((m) => m.toFixed(0)).join(' → ')} MB, workers ${rounds.workers} (from the 8th round to the last)`,
);
const { many } = b;
line(
  `${many.riders} riders, ${many.visits} visits: list`,
  `${many.listAfterShellMs.map((t) => t.toFixed(0)).join(', ')} ms after the shell (goal 300); once, with the index made anew: ${many.firstIndexMs.toFixed(0)} ms`,
);
line(
  'typing in their search',
  `longest task ${many.longestTaskMs.toFixed(0)} ms (none over 50 is 0), longest time between frames ${many.longestFrameMs.toFixed(0)} ms (goal 50)`,
);
const [bare] = b.dragFps;
for (const d of b.dragFps) {
  line(
    `dragging ${d.what}`,
    `${d.fps.toFixed(0)} frames/s drawn, longest gap ${d.worstGapMs.toFixed(0)} ms; ${(d.fps / bare.fps).toFixed(2)} of the bare line (goal 0.95)`,
  );
}

line(
  'two 720p films in crank phase',
  `${b.phase.fps.toFixed(0)} pictures/s each (goal 50), longest gap ${b.phase.longestGapMs.toFixed(0)} ms; ${(b.phase.fps / b.phase.bareFps).toFixed(2)} of two still pictures on an empty page (${b.phase.bareFps.toFixed(0)})`,
);

console.log('\nA camera that reads a rider, 720p at 60 pictures/s');
const { live } = b;
line(
  `${live.seconds.toFixed(0)} s`,
  `${live.handled} pictures read, ${live.dropped} dropped: ${((100 * live.dropped) / (live.handled + live.dropped)).toFixed(1)} % (goal 2); ${(live.fps / live.bareFps).toFixed(2)} of the bare camera's ${live.bareFps.toFixed(1)} a second (goal 0.9)`,
);
line(
  'meanwhile',
  `from light to reading ${(live.leastMs + live.behindMs).toFixed(0)} ms, of which ${live.behindMs.toFixed(0)} are work and waiting (goal 60), the page drew ${live.pageFps.toFixed(0)} frames/s (goal 50), heap ${live.heapMb.map((m) => m.toFixed(1)).join(' → ')} MB`,
);

if (b.big) {
  const { tenS, large } = b.big;
  console.log('\nLarge films (made by ffmpeg, not shipped)');
  line(
    '10 s of 1080p at 60 frames/s',
    `bare decode ${tenS.decodeS.toFixed(1)} s; from Track to the reading ${tenS.trackAndReadS.toFixed(1)} s; ratio ${tenS.ratio.toFixed(2)} (goal 1.2); the page drew ${tenS.pageFps.toFixed(0)} frames/s meanwhile (goal 50), longest gap ${tenS.worstGapMs.toFixed(0)} ms`,
  );
  line(
    `${large.megabytes.toFixed(0)} MB, ${large.frames} frames of 1080p`,
    `opens in ${large.openS.toFixed(1)} s, a jump takes ${large.scrubMs.toFixed(0)} ms; the page's process held ${large.peakMb.toFixed(0)} MB of its own at the most (goal 600), ${large.withCacheMb.toFixed(0)} with the pictures the browser may drop`,
  );
} else console.log('\nLarge films: left out, there is no ffmpeg to make them.');
