import {
  BufferTarget,
  EncodedPacket,
  EncodedVideoPacketSource,
  Mp4OutputFormat,
  Output,
  WebMOutputFormat,
} from 'mediabunny';

/** So much of the past can be kept. */
const KEPT_S = 60;
/** A film can be cut where a whole picture stands. */
const KEY_EVERY_S = 2;
const BITS_PER_S = 8_000_000;
/** A browser that is behind with writing leaves pictures out, rather than hold the reading up. */
const MOST_WAITING = 6;

/** The quickest of what this browser writes goes first: H.264 is coded in a third of VP8’s time. */
const CODECS = [
  { named: 'avc1.64002a', codec: 'avc', type: 'video/mp4' },
  { named: 'vp8', codec: 'vp8', type: 'video/webm' },
  { named: 'vp09.00.40.08', codec: 'vp9', type: 'video/webm' },
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
): Promise<{ encoder: VideoEncoder; written: (typeof CODECS)[number] } | null> {
  if (typeof VideoEncoder === 'undefined') return null;
  for (const written of CODECS) {
    const config: VideoEncoderConfig = {
      codec: written.named,
      width: widthPx,
      height: heightPx,
      bitrate: BITS_PER_S,
      latencyMode: 'realtime',
    };
    const { supported } = await VideoEncoder.isConfigSupported(config).catch(() => ({ supported: false }));
    if (!supported) continue;
    const encoder = new VideoEncoder(on);
    encoder.configure(config);
    return { encoder, written };
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
  const {
    encoder,
    written: { codec, type },
  } = made;
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
      const output = new Output({
        format: type === 'video/mp4' ? new Mp4OutputFormat() : new WebMOutputFormat(),
        target: new BufferTarget(),
      });
      const source = new EncodedVideoPacketSource(codec);
      output.addVideoTrack(source);
      await output.start();
      const fromS = takenS(held[0]);
      let lastsS = 0;
      for (const [i, chunk] of held.entries()) {
        const data = new Uint8Array(chunk.byteLength);
        chunk.copyTo(data);
        // Each is shown until the next one comes, the last as long as the one before it.
        if (i + 1 < held.length) lastsS = takenS(held[i + 1]) - takenS(chunk);
        await source.add(new EncodedPacket(data, chunk.type, takenS(chunk) - fromS, lastsS), config);
      }
      await output.finalize();
      return { film: new Blob([output.target.buffer!], { type }), fromS };
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
