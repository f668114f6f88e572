declare module 'snappyjs' {
  const snappy: {
    /** @throws Error for what is not Snappy */
    uncompress(bytes: Uint8Array): Uint8Array;
    compress(bytes: Uint8Array): Uint8Array;
  };
  export default snappy;
}
