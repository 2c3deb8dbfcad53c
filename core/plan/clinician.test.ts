import { describe, expect, it } from 'vitest';
import { BLANK_INTAKE, RED_FLAGS, type RedFlagKey } from '../intake/intake.ts';
import { aches } from './blankCase.fixture.ts';
import { heldByClinician, operatedSide } from './clinician.ts';

const flagged = (key: RedFlagKey, ...complaints: ReturnType<typeof aches>[]) =>
  heldByClinician({ ...BLANK_INTAKE, complaints, redFlags: [{ key, acknowledgedIso: null }] });

describe('a clinician first', () => {
  it('holds back what it concerns, and no more', () => {
    const knee = flagged('acuteJoint', aches('kneeBehind', { side: 'right' }));
    expect(knee.holds({ key: 'saddleUp', answers: [] })).toBe(true);
    expect(knee.holds({ key: 'hands', answers: [] })).toBe(false);
    expect(knee.words.join()).toContain('behind the knee, right is held back');
    const numb = flagged('numbDays', aches('softTissue'));
    expect(numb.holds({ key: 'saddleTilt', answers: ['softTissue'] })).toBe(true);
    expect(numb.holds({ key: 'saddleUp', answers: [] })).toBe(false);
  });
  it('of the chest holds back everything; every reason says so in words', () => {
    expect(flagged('chest').holds({ key: 'hands', answers: [] })).toBe(true);
    for (const f of RED_FLAGS) expect(flagged(f.key).words.join(), f.key).toContain('a clinician first');
    expect(heldByClinician(BLANK_INTAKE).holds({ key: 'saddleUp', answers: [] })).toBe(false);
  });
  it('what is written of the past is read, and “no surgery” is none', () => {
    expect(operatedSide('Right knee replaced 2021')).toMatchObject({ side: 'right' });
    expect(operatedSide('ACL ligament repair, left knee')).toMatchObject({ side: 'left' });
    expect(operatedSide('Hip fracture as a child')).toMatchObject({ side: 'both' });
    expect(operatedSide('Left ankle sprained 2019, healed. No surgery.')).toBeNull();
    expect(operatedSide('Collarbone 2021, plated, healed.')).toBeNull();
    expect(operatedSide('')).toBeNull();
  });
});
