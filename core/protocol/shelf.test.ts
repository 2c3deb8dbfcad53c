import { describe, expect, it } from 'vitest';
import { parseProtocols, writeProtocols } from '../formats/protocolsJson.ts';
import { checkRecord } from '../records/schemas.ts';
import { PROTOCOLS, type Protocol } from './protocols.ts';
import { asKept, bandsApart, mergeProtocols, newestOf, nextVersion, protocolUsed } from './shelf.ts';

const [long, road] = PROTOCOLS;
const DATE = '2026-11-23T10:00:00.000Z';
const steeper: Protocol = { ...long, bands: { ...long.bands, backAngleDeg: { low: 45, high: 58 } } };

describe('versions', () => {
  it('count on from the highest of their id, and the newest is the one offered', () => {
    const two = nextVersion(steeper, PROTOCOLS, DATE);
    expect(two).toMatchObject({ id: long.id, revision: 2, date: DATE });
    const three = nextVersion(steeper, [...PROTOCOLS, two], DATE);
    expect(three.revision).toBe(3);
    const newest = newestOf([...PROTOCOLS, two, three]);
    expect(newest).toHaveLength(PROTOCOLS.length);
    expect(newest[0]).toBe(three);
  });
  it('tell in which bands they differ', () => {
    expect(bandsApart(long, steeper)).toEqual(['backAngleDeg']);
    expect(bandsApart(long, road).length).toBeGreaterThan(5);
  });
  it('a visit keeps the very version it was judged by; a starting one goes by its id', () => {
    expect(asKept(long)).toEqual({ protocolId: 'long-distance', protocol: null });
    const two = nextVersion(steeper, PROTOCOLS, DATE);
    const kept = asKept(two);
    expect(protocolUsed(kept)).toBe(two);
    expect(protocolUsed({ protocolId: 'long-distance', protocol: null })).toBe(long);
  });
});

describe('protocols as a file', () => {
  const two = nextVersion({ ...steeper, reasons: { backAngleDeg: 'towpath' } }, PROTOCOLS, DATE);
  it('come back as they went', () => {
    expect(parseProtocols(writeProtocols([...PROTOCOLS, two]))).toEqual({
      ok: true,
      protocols: [...PROTOCOLS, two],
    });
  });
  it('what is known is left alone, the same version with other bands becomes one of its own', () => {
    const merged = mergeProtocols([long, two], [], PROTOCOLS);
    expect(merged.known).toEqual([long]);
    expect(merged.protocols).toEqual([two]);
    const other = { ...two, bands: { ...two.bands, hipAngleMinDeg: { low: 61, high: null } } };
    const again = mergeProtocols([other], [two], PROTOCOLS);
    expect(again.added[0].revision).toBe(3);
    expect(again.protocols[0]).toBe(two);
  });
  it.each([
    ['nothing', '', /no JSON file/],
    ['another record', '{"version":1,"parts":[]}', /protocols/],
    ['a newer one', '{"version":99,"protocols":[]}', /newer Deep Angle/],
    ['none', '{"version":1,"protocols":[]}', /no protocol in it/],
  ])('says what is wrong with %s', (_, text, words) => {
    const read = parseProtocols(text);
    expect(read.ok ? '' : read.message).toMatch(words);
  });
  it('a band turned round is refused with its own sentence', () => {
    const turned = { ...two, bands: { ...two.bands, backAngleDeg: { low: 60, high: 50 } } };
    const checked = checkRecord('protocols', { version: 1, protocols: [turned] });
    expect(checked.ok ? '' : checked.message).toContain('The lower end lies above the upper one.');
  });
});
