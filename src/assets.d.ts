/** Assets are module numbers or addresses that expo-asset resolves. */
declare module '*.woff2' {
  const asset: number;
  export default asset;
}
