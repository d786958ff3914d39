import { bisect } from '../shape/bisect';
import { at } from '../spectrum/grid';
import { seeded } from '../spectrum/random';
import { tissueAbsorptance, tissuePigment } from './symbiont';

/**
 * Photons in a layer of tissue over a pale skeleton: they come in slanted every way, are absorbed or scattered on their way, thrown back
 * by the skeleton and partly by the surface from inside, until they are absorbed or leave.
 * @param single optical depth of absorption straight through the layer
 */
function absorbedShare(single: number, throws: number, seed: number): number {
  const random = seeded(seed);
  // tissue scatters little beside its skeleton, which sends back nearly all; some is thrown back at the surface
  const [scattering, skeleton, inside] = [1, 0.95, 0.4];
  let absorbed = 0;
  for (let k = 0; k < throws; k += 1) {
    let z = 0;
    let mu = Math.sqrt(random());
    for (;;) {
      const way = -Math.log(1 - random()) / (single + scattering);
      const next = z + mu * way;
      if (next > 1) {
        if (random() > skeleton) {
          absorbed += 1;
          break;
        }
        z = 1;
        mu = -Math.sqrt(random());
      } else if (next < 0) {
        if (random() > inside) break;
        z = 0;
        mu = Math.sqrt(random());
      } else {
        z = next;
        if (random() * (single + scattering) < single) {
          absorbed += 1;
          break;
        }
        mu = 2 * random() - 1;
      }
    }
  }
  return absorbed / throws;
}

test('absorptance of living tissue is that of photons followed through a layer over a pale skeleton', () => {
  const said = tissueAbsorptance();
  const pigment = tissuePigment();
  // one layer for all wavelengths: as thick as makes the red peak right
  const layer = (thick: number, bare: number, nm: number) =>
    absorbedShare(thick * at(pigment, nm) + bare, 4000, nm);
  // a bleached one takes about a quarter; then as much pigment as makes the red peak right
  const bare = bisect((v) => layer(0, v, 600) < 1 - Math.exp(-0.3), 0, 0.5, 12);
  const thick = bisect((v) => layer(v, bare, 675) < at(said, 675), 0.05, 4, 12);
  for (const nm of [440, 460, 490, 530, 560, 600, 650]) {
    const [model, followed] = [at(said, nm), layer(thick, bare, nm)];
    expect(Math.abs(model - followed)).toBeLessThan(0.08);
  }
  // without the skeleton's many ways the same pigment takes far less where it absorbs little
  expect(1 - Math.exp(-thick * at(pigment, 560))).toBeLessThan(layer(thick, bare, 560) - 0.1);
});
