import { spawn } from 'node:child_process';
import { once } from 'node:events';
import type { Camera } from '../../sim/camera.ts';
import { toPlanes, type FilmCamera } from '../../sim/render/film.ts';

/** A film that is rendered frame by frame. */
interface Rendering extends FilmCamera {
  camera: Camera;
  framesPerS: number;
}

/** Renders a film into a file, WebM or MP4 by its name; needs ffmpeg. */
export async function encode(of: Rendering, file: string, frames: number): Promise<void> {
  const codec = file.endsWith('.webm')
    ? [
        '-c:v',
        'libvpx-vp9',
        '-b:v',
        '2600k',
        '-maxrate',
        '3400k',
        '-bufsize',
        '3000k',
        '-g',
        '60',
        '-deadline',
        'good',
        '-cpu-used',
        '3',
        '-row-mt',
        '1',
      ]
    : [
        '-c:v',
        'libx264',
        '-b:v',
        '3000k',
        '-maxrate',
        '3600k',
        '-bufsize',
        '3000k',
        '-g',
        '60',
        '-bf',
        '2',
        '-preset',
        'slow',
        '-movflags',
        '+faststart',
      ];
  const ffmpeg = spawn(
    'ffmpeg',
    [
      '-loglevel',
      'error',
      '-y',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'yuv420p',
      '-color_range',
      'tv',
      '-colorspace',
      'bt709',
      '-s',
      `${of.camera.widthPx}x${of.camera.heightPx}`,
      '-r',
      `${of.framesPerS}`,
      '-i',
      '-',
      '-colorspace',
      'bt709',
      '-color_primaries',
      'bt709',
      '-color_trc',
      'bt709',
      ...codec,
      file,
    ],
    { stdio: ['pipe', 'inherit', 'inherit'] },
  );
  for (let i = 0; i < frames; i += 1) {
    const { y, u, v } = toPlanes(of.shoot(i));
    if (!ffmpeg.stdin.write(Buffer.concat([y, u, v]))) await once(ffmpeg.stdin, 'drain');
    if (i % 60 === 0) console.log(`${file}: ${i} of ${frames}`);
  }
  ffmpeg.stdin.end();
  const [code] = (await once(ffmpeg, 'close')) as [number];
  if (code !== 0) throw new Error(`ffmpeg ended with ${code} on ${file}`);
}
