declare module 'jstat' {
  export const jStat: {
    studentt: { inv(p: number, degreesOfFreedom: number): number };
  };
}
