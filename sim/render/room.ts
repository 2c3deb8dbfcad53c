import { project, type Camera } from '../camera.ts';
import { cellNoise, fillConvex, type Raster, type Rgb } from './raster.ts';
import type { Look, VirtualBike } from './look.ts';

/** The room behind: a tiled wall with a window and a shelf, a boarded floor. Drawn once. */
export function drawRoom(r: Raster, camera: Camera, bike: VirtualBike, look: Look): void {
  const floorY = project(camera, { x: 0, y: bike.rearAxle.y - bike.wheelRadiusMm }, -900).y;
  const tile = 46;
  for (let y = 0; y < r.height; y += 1) {
    for (let x = 0; x < r.width; x += 1) {
      const k = (y * r.width + x) * 3;
      const onWall = y < floorY;
      const row = Math.floor(y / tile);
      const col = Math.floor((x + (row % 2) * (tile / 2)) / tile);
      const joint = onWall && (y % tile < 2 || (x + (row % 2) * (tile / 2)) % tile < 2);
      const base = onWall ? look.wall : look.floor;
      let light = onWall
        ? 0.93 + 0.05 * cellNoise(col, row, 3) + 0.1 * (1 - y / floorY) - (joint ? 0.13 : 0)
        : 0.9 + 0.07 * cellNoise(Math.floor((x + 3 * y) / 90), Math.floor((y - floorY) / 16), 8);
      light += 0.012 * cellNoise(x >> 1, y >> 1, 17);
      r.rgb[k] = base[0] * light;
      r.rgb[k + 1] = base[1] * light;
      r.rgb[k + 2] = base[2] * light;
    }
  }
  const w = r.width;
  const shelf: Rgb = [112, 88, 66];
  const rect = (
    { x, y, width, height }: { x: number; y: number; width: number; height: number },
    colour: Rgb,
  ): void =>
    fillConvex(
      r,
      [
        { x, y },
        { x: x + width, y },
        { x: x + width, y: y + height },
        { x, y: y + height },
      ],
      colour,
    );
  rect({ x: 0.05 * w, y: 60, width: 150, height: 190 }, [205, 216, 220]);
  rect({ x: 0.05 * w + 72, y: 60, width: 6, height: 190 }, [120, 112, 104]);
  rect({ x: 0.05 * w, y: 150, width: 150, height: 6 }, [120, 112, 104]);
  rect({ x: 0.8 * w, y: 180, width: 210, height: 10 }, shelf);
  rect({ x: 0.82 * w, y: 120, width: 44, height: 60 }, [96, 110, 118]);
  rect({ x: 0.87 * w, y: 138, width: 60, height: 42 }, [150, 122, 92]);
  rect({ x: 0.94 * w, y: 104, width: 26, height: 76 }, [128, 76, 70]);
}
