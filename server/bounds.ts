import type { Server } from 'node:http';

/** One keeper's browsers and programs need a handful; more than so many connections at once are refused. */
const MOST_CONNECTIONS = 256;
/** A request's head and all of it have to arrive within this, ms: who sends a byte now and then is cut. */
const HEAD_MS = 10_000;
const REQUEST_MS = 20_000;
/** An idle connection is kept so long, ms, and for so many requests. */
const IDLE_MS = 5_000;
const MOST_REQUESTS = 10_000;

/** Bounds what any client can hold of a server: connections, and the time it may take to say what it wants. */
export function bounded(server: Server): Server {
  server.maxConnections = MOST_CONNECTIONS;
  server.headersTimeout = HEAD_MS;
  server.requestTimeout = REQUEST_MS;
  server.keepAliveTimeout = IDLE_MS;
  server.maxRequestsPerSocket = MOST_REQUESTS;
  return server;
}
