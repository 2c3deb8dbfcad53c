import { project, type Camera } from '../camera.ts';
import type { Vec2 } from '../../core/math/vec.ts';
import { fillLimb, type Raster, type Rgb } from './raster.ts';

/** A colour as it is further from the light. */
export function dim(c: Rgb, k: number): Rgb {
  return [c[0] * k, c[1] * k, c[2] * k];
}

type Tube = (a: Vec2, b: Vec2, look: { radiusMm: number; colour: Rgb; zMm?: number }) => void;

/** Draws tubes of the bike plane, or `zMm` nearer the camera. */
export function tubeDrawer(r: Raster, camera: Camera): Tube {
  return (a, b, { radiusMm, colour, zMm = 0 }) => {
    const p = project(camera, a, zMm);
    const q = project(camera, b, zMm);
    fillLimb(
      r,
      { at: p, radiusPx: radiusMm * p.pxPerMm },
      { at: q, radiusPx: radiusMm * q.pxPerMm },
      { colour, roundness: 0.6 },
    );
  };
}
