import {
  ALL_FORMATS,
  BlobSource,
  EncodedPacketSink,
  Input,
  UnsupportedInputFormatError,
  type InputVideoTrack,
} from 'mediabunny';
import type { VideoInfo } from '../../core/records/types.ts';
import { frameRateOf } from '../../core/camera/stamps.ts';
import { boxNames, promisedFrames } from '../../core/formats/mp4Frames.ts';
import type { ClipTrouble } from './clipTrouble';
import { implausible, MOST_FRAMES, tooMany } from './plausible';

export interface OpenedClip {
  input: Input;
  track: InputVideoTrack;
  info: VideoInfo;
  /** Every frame's own time stamp, seconds, in the order shown. */
  tS: Float64Array;
}

const MAKE_ONE =
  'Film in H.264 (MP4), or convert the file with any video program to MP4 with H.264, or WebM with VP9.';

const NO_INDEX: ClipTrouble = {
  title: 'This video file is cut short: its index is missing.',
  advice:
    'The copy or the recording was broken off. Copy it from the camera again; if the original is broken too, film again.',
};

const NO_DECODER: ClipTrouble = {
  title: 'This browser gives the page no film.',
  advice:
    'Over plain http from another device no film can be opened: open Deep Angle on the device that it runs on (http://localhost), or through https. If it is there already, take a current Chrome, Edge, Firefox or Safari.',
};

/** An MP4 or MOV without its `moov` box, which cameras write last: the recording or the copy never got that far. */
async function lacksIndex(blob: Blob): Promise<boolean> {
  if (!/ftyp/.test(await startOf(blob))) return false;
  return !(await boxNames(blob)).includes('moov');
}

async function startOf(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.slice(0, 64).arrayBuffer());
  return Array.from(bytes, (b) => String.fromCharCode(b)).join('');
}

/** A word for what a file that is no video seems to be, from its first bytes. */
async function describe(blob: Blob): Promise<ClipTrouble> {
  if (blob.size === 0)
    return { title: 'This file is empty.', advice: 'Copy it from the camera again, or choose another.' };
  const head = await startOf(blob);
  const picture =
    head.startsWith('\x89PNG') ||
    head.startsWith('\xff\xd8\xff') ||
    head.startsWith('GIF8') ||
    /^RIFF.{4}WEBP/s.test(head) ||
    /ftyp(heic|heix|mif1|avif)/.test(head);
  if (picture) {
    return {
      title: 'This is a picture, not a film.',
      advice: 'Choose the video itself: a clip of at least five turns of the crank.',
    };
  }
  if (/ftyp/.test(head) || head.startsWith('\x1aE\xdf\xa3')) return NO_INDEX;
  const printable = [...head].every((c) => (c >= ' ' && c <= '~') || '\r\n\t'.includes(c) || c >= '\x80');
  if (printable)
    return {
      title: 'This is a text file with a video’s name.',
      advice: `Choose the video itself. ${MAKE_ONE}`,
    };
  return { title: 'This is not a video that can be read here.', advice: MAKE_ONE };
}

const HEVC: ClipTrouble = {
  title: 'This clip is coded in HEVC (H.265), which this browser can’t decode frame by frame.',
  advice:
    'On the phone set the camera’s format to “most compatible” (H.264) and film again, or convert this file with any video program to MP4 with H.264.',
};

/** Time stamps of all frames, in display order, without decoding anything. */
async function stampsOf(track: InputVideoTrack): Promise<Float64Array> {
  const sink = new EncodedPacketSink(track);
  const stamps: number[] = [];
  for await (const packet of sink.packets(undefined, undefined, { metadataOnly: true }))
    stamps.push(packet.timestamp);
  return Float64Array.from(stamps).sort();
}

/** The last frame's data must be there too: a file broken off in copying still has its index when that stands in front. */
async function isCutShort(input: Input, track: InputVideoTrack, tS: Float64Array): Promise<boolean> {
  const sink = new EncodedPacketSink(track);
  try {
    const last = await sink.getPacket(tS[tS.length - 1]);
    if (!last || last.data.byteLength === 0) return true;
  } catch {
    return true;
  }
  const promised = await input.getDurationFromMetadata([track]).catch(() => null);
  const step = (tS[tS.length - 1] - tS[0]) / Math.max(1, tS.length - 1);
  return promised !== null && promised - tS[tS.length - 1] > Math.max(0.5, 12 * step);
}

/**
 * Opens a file as a clip: container read, codec known and decodable, every frame's stamp listed. Nothing is read whole into
 * memory. The caller disposes of `input`.
 */
// eslint-disable-next-line max-lines-per-function -- one step after the other, each needing what the one before gave
export async function openClip(
  blob: Blob,
): Promise<{ ok: true; clip: OpenedClip } | { ok: false; trouble: ClipTrouble }> {
  if (typeof VideoDecoder === 'undefined') return { ok: false, trouble: NO_DECODER };
  const promised = await promisedFrames(blob).catch(() => 0);
  if (promised > MOST_FRAMES) return { ok: false, trouble: tooMany(promised) };
  const input = new Input({ source: new BlobSource(blob), formats: ALL_FORMATS });
  const refuse = (trouble: ClipTrouble): { ok: false; trouble: ClipTrouble } => {
    input.dispose();
    return { ok: false, trouble };
  };
  try {
    const track = await input.getPrimaryVideoTrack();
    if (!track) {
      if (await lacksIndex(blob)) return refuse(NO_INDEX);
      const audio = await input.getPrimaryAudioTrack();
      return refuse(
        audio
          ? {
              title: 'This file has sound only, no picture.',
              advice: 'Choose the video itself: a clip of at least five turns of the crank.',
            }
          : {
              title: 'There is no film in this file: it holds zero frames.',
              advice: 'The recording was stopped before it began. Film again.',
            },
      );
    }
    const codec = await track.getCodec();
    if (codec === 'hevc') return refuse(HEVC);
    const tS = await stampsOf(track);
    if (tS.length === 0) {
      return refuse({
        title: 'There is no film in this file: it holds zero frames.',
        advice: 'The recording was stopped before it began. Film again.',
      });
    }
    if (!codec || !(await track.canDecode())) {
      return refuse({
        title: `This clip is coded in ${codec ? codec.toUpperCase() : 'a way'} that this browser can’t decode.`,
        advice: MAKE_ONE,
      });
    }
    if (await isCutShort(input, track, tS)) {
      return refuse({
        title: 'This video file is cut short: its end is missing.',
        advice:
          'The copy or the recording was broken off. Copy it from the camera again; if the original is broken too, film again.',
      });
    }
    const rate = frameRateOf(tS);
    const info: VideoInfo = {
      widthPx: await track.getDisplayWidth(),
      heightPx: await track.getDisplayHeight(),
      codec,
      frames: tS.length,
      durationS: tS[tS.length - 1] - tS[0] + (rate.framesPerS > 0 ? 1 / rate.framesPerS : 0),
      ...rate,
      rotationDeg: await track.getRotation(),
    };
    const wrong = implausible(info);
    if (wrong) return refuse(wrong);
    return { ok: true, clip: { input, track, info, tS } };
  } catch (error) {
    if (!(error instanceof UnsupportedInputFormatError)) console.error(error);
    const trouble = await describe(blob);
    return refuse(trouble);
  }
}
