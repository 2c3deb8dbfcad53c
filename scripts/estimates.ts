/**
 * npm run estimates -- [riders]: how far the pose model's joints stand from the truth on rendered riders without stickers, in all sorts of
 * clothes. It looks at them in Chromium, as in the application; without a graphics chip a picture takes ten seconds and more. Writes
 * docs/estimates.md. Needs a build.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { writeFileSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import { SIDE_LANDMARKS, type SideLandmark } from '../core/landmarks/landmarks.ts';
import { ESTIMATE_SD_MM } from '../core/kinematics/estimated.ts';
import { jointsOfPose, type PosePoint } from '../core/landmarks/poseJoints.ts';
import { mean } from '../core/math/statistics.ts';
import { bikeFor } from '../sim/cast.ts';
import { nextComfortable } from '../sim/human.ts';
import { seededRandom } from '../sim/random.ts';
import { frameTruth, openFilm, type FilmSetting } from '../sim/render/film.ts';
import type { Scene } from '../sim/render/scene.ts';
import { chromiumLaunch } from '../e2e/chromium.ts';
import { randomFilm } from './films/randomFilms.ts';

const RIDERS = Number(process.argv[2] ?? 8);
/** Pictures of each, spread over a turn and a half. */
const PICTURES = 5;
const RATE = 60;
const EVERY = 13;
const PORT = 4189;
/** A software WebGL: the pose model runs on machines without a graphics chip too. */
const WEBGL = ['--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'];

const BARE = Object.fromEntries(SIDE_LANDMARKS.map((k) => [k, null])) as Record<SideLandmark, null>;

/** A rider without a sticker, in the clothes, the room and before the camera of a random film. */
function sceneOf(seed: number): { scene: Scene; film: FilmSetting } {
  const { scene, film } = randomFilm(seed).member;
  const rider = nextComfortable(seededRandom(997 * seed + 3));
  return {
    scene: {
      ...scene,
      rider,
      bike: bikeFor(rider, 1020),
      camera: { ...scene.camera, mmPerPx: 2.8, aimMm: { x: 60, y: 480 } },
      look: { ...scene.look, stickerOn: BARE, extras: [] },
    },
    film: { ...film, framesPerS: RATE, shutterS: 1 / 500, subFrames: 1 },
  };
}

/** The pose model in a page: a picture in, its points out. */
async function openModel(
  page: Page,
): Promise<(rgb: Uint8ClampedArray, size: [number, number]) => Promise<PosePoint[] | null>> {
  await page.goto(`http://localhost:${PORT}/trash`);
  await page.evaluate(`new Promise((ready) => {
    const frame = document.createElement('iframe');
    frame.src = '/pose/frame.html';
    const waiting = new Map();
    addEventListener('message', ({ data }) => {
      if (data?.from !== 'pose') return;
      if (data.kind === 'found') waiting.get(data.id)(data.points);
      else ready(data.kind);
    });
    let id = 0;
    window.look = async (rgb64, width, height) => {
      const rgb = Uint8Array.from(atob(rgb64), (c) => c.charCodeAt(0));
      const rgba = new Uint8ClampedArray(4 * width * height).fill(255);
      for (let n = 0; n < width * height; n += 1)
        for (let c = 0; c < 3; c += 1) rgba[4 * n + c] = rgb[3 * n + c];
      const picture = await createImageBitmap(new ImageData(rgba, width, height));
      id += 1;
      const found = new Promise((done) => waiting.set(id, done));
      frame.contentWindow.postMessage({ to: 'pose', id, picture }, location.origin, [picture]);
      return found;
    };
    document.body.append(frame);
  })`);
  return (rgb, [width, height]) =>
    page.evaluate(
      ([data, w, h]) =>
        (
          window as unknown as { look: (d: string, w: number, h: number) => Promise<PosePoint[] | null> }
        ).look(data, w, h),
      [Buffer.from(rgb.buffer, rgb.byteOffset, rgb.byteLength).toString('base64'), width, height] as const,
    );
}

const joints = Object.fromEntries(SIDE_LANDMARKS.map((k) => [k, [] as { x: number; y: number }[]])) as Record<
  SideLandmark,
  { x: number; y: number }[]
>;
let unseen = 0;

const server = spawn('node', ['server/serve.mjs', '--port', `${PORT}`, '--strict-port'], {
  stdio: ['ignore', 'pipe', 'inherit'],
});
await once(server.stdout, 'data');
const browser = await chromium.launch({
  ...chromiumLaunch,
  args: [...chromiumLaunch.args.filter((a) => a !== '--disable-gpu'), ...WEBGL],
});
const look = await openModel(await browser.newPage({ bypassCSP: true }));

const rms = (list: readonly number[]): number => Math.hypot(...list) / Math.sqrt(Math.max(1, list.length));
/** How far a joint stands from its own usual place beside the truth, mm. */
const strays = (list: readonly number[]): number => rms(list.map((v) => v - mean(list)));
const row = (key: SideLandmark): string => {
  const [x, y] = [joints[key].map((p) => p.x), joints[key].map((p) => p.y)];
  if (x.length === 0) return `| ${key} | not seen | | | |`;
  const all = rms([...x, ...y]);
  return `| ${key} | ${mean(x).toFixed(0)}, ${mean(y).toFixed(0)} | ${strays(x).toFixed(0)}, ${strays(y).toFixed(0)} | ${all.toFixed(0)} | ${ESTIMATE_SD_MM[key]} |`;
};
/** Writes what is known so far: each rider takes a minute or two. */
function write(riders: number): void {
  const every = SIDE_LANDMARKS.flatMap((k) => joints[k].flatMap((p) => [p.x, p.y]));
  writeFileSync(
    'docs/estimates.md',
    `# Estimates: where the pose model puts a joint, against the truth

Made by \`npm run estimates\`: ${riders} rendered riders without a sticker, in clothes, rooms and before cameras drawn at random, ${PICTURES} pictures
each, ${SIDE_LANDMARKS.length * riders * PICTURES - unseen} of ${SIDE_LANDMARKS.length * riders * PICTURES} joints seen. Millimetres, forward and up, from where a sticker would stand. Drawn riders are
not people, but whoever looks at them is the same model. The last column: how far off a first look takes each joint in each direction at the
least (one standard deviation).

| joint | mean, forward and up | strays by, forward and up | off in each direction, root mean square | taken as off by |
| --- | --- | --- | --- | --- |
${SIDE_LANDMARKS.map(row).join('\n')}
| all | | | ${rms(every).toFixed(0)} | |
`,
  );
}

for (let seed = 0; seed < RIDERS; seed += 1) {
  const { scene, film } = sceneOf(seed);
  const { widthPx, heightPx, mmPerPx, facing } = scene.camera;
  const forward = facing === 'right' ? 1 : -1;
  const camera = openFilm(scene, film);
  const view = facing === 'right' ? 'drive' : 'nonDrive';
  for (let k = 0; k < PICTURES; k += 1) {
    const frame = k * EVERY;
    const points = await look(camera.shoot(frame).rgb, [widthPx, heightPx]);
    const found = points ? jointsOfPose(points, view) : {};
    const truth = frameTruth(scene, film, frame).joints;
    for (const key of SIDE_LANDMARKS) {
      const p = found[key];
      if (!p) unseen += 1;
      else
        joints[key].push({ x: forward * mmPerPx * (p.x - truth[key].x), y: -mmPerPx * (p.y - truth[key].y) });
    }
  }
  write(seed + 1);
  console.log(`rider ${seed + 1} of ${RIDERS}`);
}
await browser.close();
server.kill();
