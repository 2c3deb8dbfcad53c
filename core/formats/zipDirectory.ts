/** As much of a file as is asked of it: a Blob is one. */
export interface FileBytes {
  size: number;
  slice: (from: number, to: number) => { arrayBuffer: () => Promise<ArrayBuffer> };
}

const END = 0x06054b50;
const ENTRY = 0x02014b50;
/** The end record with the longest comment, bytes. */
const LONGEST_END = 22 + 65_535;

const view = async (file: FileBytes, from: number, to: number): Promise<DataView> =>
  new DataView(await file.slice(Math.max(0, from), Math.max(0, to)).arrayBuffer());

/**
 * The CRC-32 of every entry of a zip file, from its directory at the end.
 * @returns null where there is no directory: the file was cut short, or is no zip
 */
export async function crcsOf(file: FileBytes): Promise<Map<string, number> | null> {
  const tail = await view(file, file.size - LONGEST_END, file.size);
  let at = tail.byteLength - 22;
  while (at >= 0 && tail.getUint32(at, true) !== END) at -= 1;
  if (at < 0) return null;
  const [size, from] = [tail.getUint32(at + 12, true), tail.getUint32(at + 16, true)];
  const list = await view(file, from, from + size);
  const crcs = new Map<string, number>();
  for (let k = 0; k + 46 <= list.byteLength && list.getUint32(k, true) === ENTRY;) {
    const nameLength = list.getUint16(k + 28, true);
    if (k + 46 + nameLength > list.byteLength) return null;
    const name = new TextDecoder().decode(new Uint8Array(list.buffer, list.byteOffset + k + 46, nameLength));
    crcs.set(name, list.getUint32(k + 16, true));
    k += 46 + nameLength + list.getUint16(k + 30, true) + list.getUint16(k + 32, true);
  }
  return crcs;
}
