import avro from 'avsc';

/** Whole numbers of 64 bits, all of them: the library's own are doubles. */
export const longs = avro.types.LongType.__with({
  fromBuffer: (bytes: Buffer) => bytes.readBigInt64LE(),
  toBuffer: (value: bigint) => {
    const bytes = Buffer.alloc(8);
    bytes.writeBigInt64LE(value);
    return bytes;
  },
  fromJSON: BigInt,
  toJSON: Number,
  isValid: (value: unknown) => typeof value === 'bigint' && BigInt.asIntN(64, value) === value,
  compare: (a: bigint, b: bigint) => (a === b ? 0 : a < b ? -1 : 1),
});
