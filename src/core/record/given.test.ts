import { demoCase } from '@/demo/lagoon';
import { exportText, importText } from './caseFile';
import { waterAlone } from './given';

const NOW = Date.parse('2026-11-24T14:40:00Z');

test('a water is given along whole and sound, without what is nobody else’s business', () => {
  const bundle = demoCase(NOW, 'Europe/Berlin');
  for (const zone of bundle.case.zones) {
    const alone = waterAlone(bundle.case, { ...zone, home: { fromMinute: 1080, toMinute: 1320 } }, 'given');
    const text = exportText(alone);
    expect(importText(text)).toMatchObject({ ok: true, value: alone });
    expect(alone.case).toMatchObject({ id: 'given', name: zone.name, demo: false });
    const [there] = alone.case.zones;
    expect(there!.tank).toEqual(zone.tank);
    expect(there!.groups).toEqual(zone.groups);
    expect(there!.spots.map((s) => [s.name, s.xCm, s.yCm, s.depthCm, s.formId])).toEqual(
      zone.spots.map((s) => [s.name, s.xCm, s.yCm, s.depthCm, s.formId]),
    );
    expect(alone.log.events).toEqual([]);
    expect(alone.readings.sessions).toEqual([]);
    expect(text).not.toMatch(/"(home|arrived|experiments|kwhPrice|inHand)": *[^n\s]/);
    // nothing of other waters comes along
    for (const other of bundle.case.zones) if (other !== zone) expect(text).not.toContain(`"${other.name}"`);
    const used = new Set(zone.groups.map((g) => g.lampKindId));
    expect(alone.case.lampKinds.map((k) => k.id).sort()).toEqual([...used].sort());
  }
});
