import { expose, transfer } from 'comlink';

import type { PortraitScene } from '@/core/portrait/buffers';
import type { PortraitInput } from '@/core/portrait/scene';

import { madeOnce } from './made';
import { madeStore } from './madeStore';
import { type Progress, service } from './service';

// tables of dates and numbers are read once for page and workers: first here, where nobody waits for them
new Intl.DateTimeFormat('en').format(0);
new Intl.NumberFormat('en').format(0);

expose({
  ...service,
  // whole pictures take a second and are kept between visits; the worker's own address changes with its code
  portrait: async (input: PortraitInput, onProgress?: Progress): Promise<PortraitScene> => {
    const make = () => service.portrait(input, onProgress);
    const scene = await (input.coarse ? make() : madeOnce(madeStore, [self.location.href, input], make));
    return transfer(scene, [scene.cell.buffer, scene.arrive.buffer, scene.haze.buffer]);
  },
});
