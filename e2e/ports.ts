const first = Number(process.env.E2E_PORT ?? 4173);

/** Ports of the servers, one for each worker. */
export const PORTS = [first, first + 1, first + 2];
