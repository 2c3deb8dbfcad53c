import { project, type Camera } from '../camera.ts';
import { hoodMm, type VirtualRider } from '../rider.ts';
import { fillDisc, fillRing, type Raster, type Rgb } from './raster.ts';
import { TYRE_MM, type Look, type VirtualBike } from './look.ts';
import { dim, tubeDrawer } from './tubes.ts';

/** Wheels, frame and trainer: they stand still, so they are drawn once, on a layer that goes over the far leg. */
export function drawBike(r: Raster, camera: Camera, bike: VirtualBike, look: Look): void {
  const tube = tubeDrawer(r, camera);
  const bb = { x: 0, y: 0 };
  for (const axle of [bike.rearAxle, bike.frontAxle]) {
    const c = project(camera, axle, 0);
    const ry = bike.wheelRadiusMm * c.pxPerMm;
    const rx = ry * Math.cos((camera.yawDeg * Math.PI) / 180);
    for (let i = 0; i < 9; i += 1) {
      const a = (i / 9) * Math.PI + 0.2;
      const end = { x: bike.wheelRadiusMm * 0.95 * Math.cos(a), y: bike.wheelRadiusMm * 0.95 * Math.sin(a) };
      tube(
        { x: axle.x - end.x, y: axle.y - end.y },
        { x: axle.x + end.x, y: axle.y + end.y },
        { radiusMm: 1.6, colour: [150, 150, 152] },
      );
    }
    // A circle seen from aside is an ellipse whose middle is not the circle's.
    const sides = [-1, 1].map((k) => project(camera, { x: axle.x + k * bike.wheelRadiusMm, y: axle.y }, 0));
    const mid = { x: (sides[0].x + sides[1].x) / 2, y: (sides[0].y + sides[1].y) / 2 };
    fillRing(r, mid, { rx: rx * 0.965, ry: ry * 0.965, widthPx: TYRE_MM * c.pxPerMm }, [42, 42, 44]);
    fillRing(r, mid, { rx: rx * 0.9, ry: ry * 0.9, widthPx: 10 * c.pxPerMm }, [120, 122, 126]);
    fillDisc(r, c, 22 * c.pxPerMm, [70, 72, 76]);
    fillDisc(r, c, 7 * c.pxPerMm, [214, 206, 188]);
  }
  const f = look.frame;
  const seat = { x: bike.saddleTop.x * 0.86, y: bike.saddleTop.y * 0.8 };
  tube(bike.rearAxle, bb, { radiusMm: 9, colour: dim(f, 0.85) });
  tube(bike.rearAxle, seat, { radiusMm: 8, colour: dim(f, 0.85) });
  tube(bb, seat, { radiusMm: 15, colour: f });
  tube(seat, { x: bike.saddleTop.x, y: bike.saddleTop.y - 35 }, { radiusMm: 13, colour: [60, 60, 62] });
  tube(bb, bike.headBottom, { radiusMm: 19, colour: f });
  tube(seat, bike.headTop, { radiusMm: 14, colour: f });
  tube(bike.headBottom, bike.headTop, { radiusMm: 18, colour: dim(f, 1.1) });
  tube(bike.headBottom, bike.frontAxle, { radiusMm: 11, colour: dim(f, 0.9) });
  const ring = project(camera, bb, 45);
  fillRing(
    r,
    ring,
    { rx: 78 * ring.pxPerMm, ry: 78 * ring.pxPerMm, widthPx: 12 * ring.pxPerMm },
    [88, 90, 94],
  );
  const s = bike.saddleTop;
  tube({ x: s.x - 120, y: s.y - 6 }, { x: s.x + 145, y: s.y - 16 }, { radiusMm: 14, colour: [38, 36, 38] });
  tube({ x: bike.rearAxle.x - 150, y: bike.rearAxle.y - bike.wheelRadiusMm }, bike.rearAxle, {
    radiusMm: 14,
    colour: [84, 90, 88],
    zMm: 60,
  });
  tube({ x: bike.rearAxle.x + 170, y: bike.rearAxle.y - bike.wheelRadiusMm }, bike.rearAxle, {
    radiusMm: 14,
    colour: [84, 90, 88],
    zMm: 60,
  });
}

/** The bar, which lies over the far hand and under the near one. */
export function drawBar(r: Raster, camera: Camera, bike: VirtualBike, rider: VirtualRider): void {
  const hood = hoodMm(rider);
  const tube = tubeDrawer(r, camera);
  const bar: Rgb = [48, 48, 50];
  const clamp = { x: hood.x - 95, y: hood.y - 12 };
  tube(bike.headTop, clamp, { radiusMm: 14, colour: [66, 66, 70] });
  tube(clamp, { x: hood.x + 18, y: hood.y - 22 }, { radiusMm: 14, colour: bar, zMm: 190 });
  tube(
    { x: hood.x + 18, y: hood.y - 22 },
    { x: hood.x + 30, y: hood.y - 95 },
    { radiusMm: 12, colour: bar, zMm: 190 },
  );
  tube(
    { x: hood.x + 30, y: hood.y - 95 },
    { x: hood.x - 70, y: hood.y - 140 },
    { radiusMm: 12, colour: bar, zMm: 190 },
  );
}
