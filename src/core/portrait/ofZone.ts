import type { Calibration } from '../case/calibration';
import { gainOf } from '../case/calibration';
import { channelIds, type HungGroup, rigKey, rigOf } from '../case/lit';
import { type CoralForm, libraryForm, type ShapeId } from '../coral/form';
import type { AlgaId } from '../feeding/algae';
import type { CaseDoc } from '../record/caseDoc';
import type { NeedId } from '../record/needs';
import type { Spot, Zone } from '../record/zone';
import type { LampLevels } from './relight';
import type { PortraitScene } from './buffers';
import type { PortraitInput } from './scene';
import { USUAL_CM } from './sizes';

/** The form of a spot's coral: one of the case, or of the library; null when nobody has said. */
export const formOf = (doc: Pick<CaseDoc, 'forms'>, spot: Pick<Spot, 'formId'>): CoralForm | null =>
  spot.formId === null
    ? null
    : (doc.forms.find((f) => f.id === spot.formId) ?? libraryForm(spot.formId) ?? null);

/** The shape in which a kind is drawn that nobody has described. Drawing licence. */
const SHAPE_OF: Partial<Record<NeedId, ShapeId>> = {
  soft: 'leather',
  largePolyp: 'brain',
  smallPolyp: 'branch',
  nonPhotosynthetic: 'polyps',
  clam: 'clam',
  anemone: 'anemone',
};
/** A mat's footprint where nobody has said, cm. Mark: rule of thumb. */
const USUAL_MAT = { lengthCm: 18, widthCm: 14 };

/** The shape a spot's tenant is drawn in; null where no coral is known to live. */
export const shapeOf = (doc: Pick<CaseDoc, 'forms'>, spot: Pick<Spot, 'formId' | 'need'>): ShapeId | null =>
  formOf(doc, spot)?.shape ?? (spot.need ? (SHAPE_OF[spot.need] ?? null) : null);

/** How wide a spot's coral is drawn, cm. */
export const sizeOf = (spot: Pick<Spot, 'sizeCm'>, shape: ShapeId): number => spot.sizeCm ?? USUAL_CM[shape];

export interface PortraitLook {
  fish: boolean;
  card: boolean;
  width: number;
  height: number;
  coarse: boolean;
}

/** What the picture of a water is made of. */
export function portraitOf(
  doc: Pick<CaseDoc, 'forms'>,
  zone: Zone,
  groups: readonly HungGroup[],
  cal: Calibration,
  look: PortraitLook,
): PortraitInput {
  const corals = zone.spots.flatMap((s) => {
    const shape = shapeOf(doc, s);
    const { id, xCm, yCm, depthCm } = s;
    return shape ? [{ id, xCm, yCm, depthCm, shape, form: formOf(doc, s), sizeCm: sizeOf(s, shape) }] : [];
  });
  const mats = zone.spots.flatMap((s) =>
    s.need === 'macroalgae' && s.algaId
      ? [{ id: s.id, xCm: s.xCm, yCm: s.yCm, depthCm: s.depthCm, algaId: s.algaId, ...(s.mat ?? USUAL_MAT) }]
      : [],
  );
  return {
    tank: zone.tank,
    rig: rigOf(groups, zone, [], cal),
    rigKey: rigKey(groups, zone, [], cal),
    lamps: groups.flatMap((g) =>
      g.lamps.map((l) => ({
        groupId: g.groupId,
        lampId: l.id,
        xCm: l.xCm,
        yCm: l.yCm,
        heightCm: l.heightCm,
        turnDeg: l.turnDeg,
        lengthCm: g.lampKind.faceLengthCm,
        widthCm: g.lampKind.faceWidthCm,
      })),
    ),
    corals,
    mats,
    ...look,
    // where nothing but algae lives nobody keeps fish to be looked at
    fish: look.fish && corals.length > 0,
  };
}

/** Content key: the same key means the same picture under the same levels. */
export const portraitKey = (
  doc: Pick<CaseDoc, 'forms'>,
  zone: Zone,
  groups: readonly HungGroup[],
  cal: Calibration,
  look: PortraitLook,
): string => {
  const { corals, mats, fish } = portraitOf(doc, zone, [], cal, look);
  return JSON.stringify([rigKey(groups, zone, [], cal), corals, mats, { ...look, fish }]);
};

/** Levels of groups as the lamps of a scene take them; null when the scene is of other lamps. */
export function lampLevels(
  scene: Pick<PortraitScene, 'lamps'>,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
  cal: Pick<Calibration, 'gains'>,
): LampLevels | null {
  const out: number[][] = [];
  for (const { groupId, channels } of scene.lamps) {
    const g = groups.findIndex((x) => x.groupId === groupId);
    if (g < 0) return null;
    const ids = channelIds(groups[g]!.lampKind);
    const own = channels.map((id) => (levels[g]?.[ids.indexOf(id)] ?? NaN) * gainOf(cal, groupId, id));
    if (own.some(Number.isNaN)) return null;
    out.push(own);
  }
  return out;
}

/** One coral or alga by itself, close: what its picture is made of. */
export function figureOf(
  what: { shape: ShapeId; form: CoralForm | null } | { algaId: AlgaId },
  id: string,
  px: number,
): PortraitInput {
  const cm = 20;
  const tank = {
    lengthCm: cm * 0.98,
    widthCm: cm * 1.5,
    depthCm: cm * 1.0,
    walls: { left: 1, right: 1, front: 1, back: 1 },
    floorReflectance: 0.4,
    lidShare: 1,
    solids: [],
  };
  const at = { id, xCm: tank.lengthCm / 2, yCm: tank.widthCm * 0.42, depthCm: tank.depthCm - 0.6 };
  return {
    tank,
    rig: null,
    rigKey: '',
    lamps: [
      {
        groupId: '',
        lampId: '',
        xCm: at.xCm,
        yCm: at.yCm - cm * 0.5,
        heightCm: cm * 1.2,
        lengthCm: cm,
        widthCm: cm,
        turnDeg: 0,
      },
    ],
    corals: 'algaId' in what ? [] : [{ ...at, ...what, sizeCm: cm }],
    mats: 'algaId' in what ? [{ ...at, algaId: what.algaId, lengthCm: cm * 0.9, widthCm: cm * 0.7 }] : [],
    fish: false,
    card: false,
    width: px,
    height: px,
    coarse: false,
  };
}
