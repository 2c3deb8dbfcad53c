import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import { expect, it } from 'vitest';
import { RECORD_VERSIONS } from '../records/migrations.ts';
import type { FitSession } from '../records/types.ts';
import { inspectBundle } from './inspectBundle.ts';

// Backups as earlier versions wrote them: a studio with five visits, from intake to hand-over.
it.each(['backup-v9.zip', 'backup-v11.zip', 'backup-v12.zip', 'backup-v13.zip', 'backup-v14.zip'])(
  '%s opens whole, and what was typed then is the same now',
  async (name) => {
    const bytes = new Uint8Array(readFileSync(`e2e/files/${name}`));
    const read = await inspectBundle(new Blob([bytes]));
    expect(read.faults).toEqual([]);
    expect([read.riders.length, read.bikes.length, read.sessions.length]).toEqual([4, 4, 5]);
    expect(read.parts?.parts.length).toBeGreaterThan(10);
    const files = unzipSync(bytes);
    for (const now of read.sessions) {
      const then = JSON.parse(strFromU8(files[`sessions/${now.id}.json`])) as FitSession;
      expect(then.version).toBe(Number(/v(\d+)/.exec(name)![1]));
      expect(now.version).toBe(RECORD_VERSIONS.session);
      expect(now.intake.complaints).toMatchObject(then.intake.complaints);
      expect(now.asFound).toMatchObject(then.asFound);
      expect(now.body.results).toMatchObject(then.body.results);
      expect(now.takes.map((t) => [t.id, t.marks, t.tracking])).toEqual(
        then.takes.map((t) => [t.id, t.marks, { ...t.tracking, estimated: false }]),
      );
      expect(now.changes.map((c) => [c.id, c.values, c.word])).toEqual(
        then.changes.map((c) => [c.id, c.values, c.word]),
      );
      expect(now.followUps).toEqual(then.followUps);
    }
  },
);
