import type { Description } from 'joi';
import { expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { DEMO_PARTS } from '../../app/demo/parts.ts';
import { bikeSchema } from './stationSchemas.ts';
import { partSchema, sessionSchema, takeSchema } from './schemas.ts';
import { UNMEASURED_BIKE } from '../bike/setup.ts';
import { PROTOCOLS } from '../protocol/protocols.ts';
import { protocolSchema } from './schemas.ts';

interface Described extends Description {
  keys?: Record<string, Described>;
  items?: Described[];
  matches?: { schema?: Described }[];
}

/** Where a schema's keys and a value's are not the same ones, and which keys it does not demand. */
function compare(schema: Described, value: unknown, at: string): { apart: string[]; optional: string[] } {
  const out = { apart: [] as string[], optional: [] as string[] };
  const add = (more: typeof out): void => {
    out.apart.push(...more.apart);
    out.optional.push(...more.optional);
  };
  if (Array.isArray(value)) {
    for (const item of value) if (schema.items?.[0]) add(compare(schema.items[0], item, `${at}[]`));
  } else if (value !== null && typeof value === 'object' && schema.keys) {
    for (const key of Object.keys(value)) if (!schema.keys[key]) out.apart.push(`${at}.${key}: no schema`);
    for (const [key, inner] of Object.entries(schema.keys)) {
      const demanded = (inner.flags as { presence?: string } | undefined)?.presence === 'required';
      if (!demanded) out.optional.push(at);
      if (key in value) add(compare(inner, (value as Record<string, unknown>)[key], `${at}.${key}`));
      else if (demanded) out.apart.push(`${at}.${key}: not in the record`);
    }
  }
  return out;
}

/** The maps of a visit in which any entry may be missing; everything else is demanded, down to the last value. */
const MAPS = [
  /\.marks$/,
  /\.body\.results$/,
  /\.tests$/,
  /\.(moves|today|trying)$/,
  /\.onBike$/,
  /\.answers$/,
  /\.ladders$/,
  /\.bands$/,
  /\.reasons$/,
  /\.texts$/,
  /\.rims$/,
];

it('what is stored has the keys of its type, and its schema demands all of them but in maps', () => {
  const all = [
    ...CATALOGUE.sessions.map((s) => compare(sessionSchema.describe(), s, 'visit')),
    ...CATALOGUE.sessions.flatMap((s) => s.takes).map((t) => compare(takeSchema.describe(), t, 'take')),
    ...DEMO_PARTS.parts.map((p) => compare(partSchema.describe(), p, 'part')),
    ...PROTOCOLS.map((p) => compare(protocolSchema.describe(), p, 'protocol')),
    compare(bikeSchema.describe(), UNMEASURED_BIKE, 'bike'),
  ];
  expect([...new Set(all.flatMap((c) => c.apart))]).toEqual([]);
  const optional = [...new Set(all.flatMap((c) => c.optional))];
  expect(optional.filter((at) => !MAPS.some((map) => map.test(at)))).toEqual([]);
  expect(optional.length).toBeGreaterThan(3);
});
