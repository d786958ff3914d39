const first = Number(process.env.E2E_PORT ?? 4173);

/** Ports of the servers, one for each worker. Two workers fill both cores of a small machine, and a tap that follows a pull is then lost now and then: one. */
export const PORTS = [first];
