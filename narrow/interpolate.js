// scales here are of numbers: what lies between two of them, and the same in whole ones
export const interpolateNumber = (from, to) => (share) => from * (1 - share) + to * share;
export const interpolateRound = (from, to) => (share) => Math.round(from * (1 - share) + to * share);
export const interpolate = interpolateNumber;
export const piecewise = undefined;
