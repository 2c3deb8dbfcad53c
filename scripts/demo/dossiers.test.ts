import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { bikeFaults } from '../../core/bike/faults.ts';
import { resolveBike } from '../../core/bike/resolve.ts';
import { saddleHeightStarts } from '../../core/body/estimates.ts';
import { BODY_TESTS, single } from '../../core/body/bodyTests.ts';
import { rankSuspects } from '../../core/suspects/suspects.ts';
import { CAST } from '../../sim/cast.ts';
import { hoodMm } from '../../sim/rider.ts';
import { DOSSIERS } from './dossiers.ts';

// First visits: what comes later starts from how the bike was left.
describe.each(CATALOGUE.sessions.filter((s) => s.followsId === null).map((s) => [s.riderId, s] as const))(
  'what is noted of %s',
  (id, session) => {
    const { bike, rider } = CAST.find((m) => m.id === id)!.scene;
    const resolved = resolveBike(session.asFound);
    it('is what the script writes', () => {
      expect({
        intake: {
          ...session.intake,
          filmConsent: DOSSIERS[id].intake.filmConsent,
          flagsAskedIso: DOSSIERS[id].intake.flagsAskedIso,
        },
        body: session.body,
        asFound: session.asFound,
      }).toEqual(DOSSIERS[id]);
    });
    it('agrees with the virtual rider: saddle, hands, axles, crank', () => {
      const near = (p: { x: number; y: number } | null, q: { x: number; y: number }): void =>
        expect(Math.hypot(p!.x - q.x, p!.y - q.y)).toBeLessThan(2);
      near(resolved.points.sit, bike.saddleTop);
      near(resolved.points.hood, hoodMm(rider));
      near(resolved.points.frontAxle, bike.frontAxle);
      near(resolved.points.rearAxle, bike.rearAxle);
      expect(session.asFound.crank.lengthMm).toBe(rider.crankMm);
      expect(resolved.contradictions).toEqual([]);
    });
    it('has every test done or skipped that its story needs, and consent', () => {
      expect(Object.keys(session.body.results).length).toBeGreaterThan(14);
      for (const t of BODY_TESTS.slice(0, 5)) expect(session.body.results[t.key], t.key).toBeDefined();
      expect(session.intake.filmConsent).not.toBeNull();
    });
  },
);

it('each story is seen in the numbers before a camera is touched', () => {
  const of = (id: string) => {
    const { intake, body, asFound } = DOSSIERS[id];
    const resolved = resolveBike(asFound);
    const faults = bikeFaults(asFound, resolved).map((f) => f.what);
    const first = rankSuspects({ intake, body, bike: asFound, resolved, measures: {} }).map(
      (s) => s.suspects[0].key,
    );
    const start = saddleHeightStarts(single(body, 'inseam')!, asFound.crank.lengthMm).map((s) => s.mm);
    return { faults, first, lowBy: Math.min(...start) - resolved.heightMm!.mm };
  };
  expect(of('maren').lowBy).toBeGreaterThan(12);
  expect(of('maren').first).toEqual(['saddleLow', 'noseDown']);
  expect(of('idris').faults.join()).toContain('cleat ahead of the first metatarsal head');
  expect(of('idris').first).toEqual(['cleatForward']);
  // Before the film the table speaks: 54° of straight-leg raise, and a back that rounds close behind.
  expect(of('pilar').first).toEqual(['hamstrings', 'crankLong']);
  expect(of('juno').faults.join()).toMatch(/cleats 4° apart.*cleats 3 mm apart/);
});
