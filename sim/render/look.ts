import type { ExtraKey, JointKey } from '../rider.ts';
import type { Vec2 } from '../../core/math/vec.ts';
import type { Rgb } from './raster.ts';

/** The bike's points that do not move, mm in the bike plane. */
export interface VirtualBike {
  rearAxle: Vec2;
  frontAxle: Vec2;
  wheelRadiusMm: number;
  saddleTop: Vec2;
  headTop: Vec2;
  headBottom: Vec2;
}

export interface Look {
  skin: Rgb;
  shorts: Rgb;
  jersey: Rgb;
  shoe: Rgb;
  sole: Rgb;
  helmet: Rgb;
  frame: Rgb;
  wall: Rgb;
  floor: Rgb;
  sticker: Rgb;
  /** Sticker colour joint by joint where it differs, or null for none on that joint. */
  stickerOn?: Partial<Record<JointKey, Rgb | null>>;
  stickerRadiusMm: number;
  /** Where a joint's sticker is of another size. */
  stickerRadiusOnMm?: Partial<Record<JointKey, number>>;
  /** Stripes across the jersey. */
  stripes?: Rgb;
  /** Stickers on these points too. */
  extras?: readonly ExtraKey[];
  /** Share of the thigh that the shorts cover: over 1 for full tights. */
  shortsTo: number;
  sleeveTo: number;
  weave: number;
}

/** What people’s skin looks like in a room’s light. */
export const SKIN: readonly Rgb[] = [
  [222, 180, 152],
  [206, 160, 132],
  [150, 106, 80],
  [96, 66, 50],
];

/** How thick a tyre is drawn, about 0.965 of the wheel's radius. */
export const TYRE_MM = 34;
/** The drawn tyre's outer edge, mm. */
export const tyreEdgeMm = (bike: VirtualBike): number => 0.965 * bike.wheelRadiusMm + TYRE_MM / 2;
