import { BufferTarget, EncodedPacket, EncodedVideoPacketSource, Output, WebMOutputFormat } from 'mediabunny';

/** So much of the past can be kept. */
const KEPT_S = 60;
/** A film can be cut where a whole picture stands. */
const KEY_EVERY_S = 2;
const BITS_PER_S = 8_000_000;
/** A browser that is behind with writing leaves pictures out, rather than hold the reading up. */
const MOST_WAITING = 6;

/** The best of what this browser writes, by its name there and in the file. */
const CODECS = [
  ['vp8', 'vp8'],
  ['vp09.00.40.08', 'vp9'],
] as const;

/** Coding every picture takes most of a core: one of two would be missed by the reading. */
const EVERY = navigator.hardwareConcurrency > 2 ? 1 : 2;

/** When a piece was taken, on the camera’s clock, which the stamps of the film are. */
const takenS = ({ timestamp }: EncodedVideoChunk): number => timestamp / 1e6;

/** The last minute of a camera, coded as it comes; nothing of it leaves memory before it is asked for. */
export interface FilmRing {
  add: (picture: VideoFrame, tS: number) => void;
  /** A film of what is held, and when it begins on the camera’s clock; null while there is none. */
  film: () => Promise<{ film: Blob; fromS: number } | null>;
  /** Forgets what came so far. */
  clear: () => void;
  close: () => void;
}

async function encoderFor(
  widthPx: number,
  heightPx: number,
  on: VideoEncoderInit,
): Promise<{ encoder: VideoEncoder; codec: 'vp8' | 'vp9' } | null> {
  if (typeof VideoEncoder === 'undefined') return null;
  for (const [name, codec] of CODECS) {
    const config: VideoEncoderConfig = {
      codec: name,
      width: widthPx,
      height: heightPx,
      bitrate: BITS_PER_S,
      latencyMode: 'realtime',
    };
    const { supported } = await VideoEncoder.isConfigSupported(config).catch(() => ({ supported: false }));
    if (!supported) continue;
    const encoder = new VideoEncoder(on);
    encoder.configure(config);
    return { encoder, codec };
  }
  return null;
}

/** @returns null where this browser writes no film */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
export async function filmRing(widthPx: number, heightPx: number): Promise<FilmRing | null> {
  let pieces: EncodedVideoChunk[] = [];
  let config: EncodedVideoChunkMetadata = {
    decoderConfig: { codec: 'vp8', codedWidth: widthPx, codedHeight: heightPx },
  };
  const made = await encoderFor(widthPx, heightPx, {
    output: (chunk, meta) => {
      if (meta?.decoderConfig) config = meta;
      pieces.push(chunk);
      const oldestS = takenS(chunk) - KEPT_S;
      if (takenS(pieces[0]) >= oldestS - KEY_EVERY_S) return;
      const firstKey = pieces.findIndex((p) => p.type === 'key' && takenS(p) > oldestS);
      if (firstKey > 0) pieces = pieces.slice(firstKey);
    },
    error: () => undefined,
  });
  if (!made) return null;
  const { encoder, codec } = made;
  let keyS = -Infinity;
  let come = 0;
  return {
    add(picture, tS) {
      come += 1;
      if (come % EVERY !== 0) return;
      if (encoder.state !== 'configured' || encoder.encodeQueueSize > MOST_WAITING) return;
      const keyFrame = tS - keyS >= KEY_EVERY_S;
      if (keyFrame) keyS = tS;
      const stamped = new VideoFrame(picture, { timestamp: Math.round(1e6 * tS) });
      encoder.encode(stamped, { keyFrame });
      stamped.close();
    },
    async film() {
      if (encoder.state !== 'configured') return null;
      await encoder.flush();
      // The next picture has to be whole: a film may end here.
      keyS = -Infinity;
      const held = pieces.slice(
        Math.max(
          0,
          pieces.findIndex((p) => p.type === 'key'),
        ),
      );
      if (held.length < 2) return null;
      const output = new Output({ format: new WebMOutputFormat(), target: new BufferTarget() });
      const source = new EncodedVideoPacketSource(codec);
      output.addVideoTrack(source);
      await output.start();
      const fromS = takenS(held[0]);
      for (const chunk of held) {
        const data = new Uint8Array(chunk.byteLength);
        chunk.copyTo(data);
        const packet = new EncodedPacket(data, chunk.type, takenS(chunk) - fromS, 0);
        await source.add(packet, config);
      }
      await output.finalize();
      return { film: new Blob([output.target.buffer!], { type: 'video/webm' }), fromS };
    },
    clear() {
      pieces = [];
      keyS = -Infinity;
    },
    close() {
      if (encoder.state !== 'closed') encoder.close();
      pieces = [];
    },
  };
}
