import { readFileSync } from 'node:fs';
import {
  BlobSource,
  BufferTarget,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  Input,
  Output,
  WEBM,
  WebMOutputFormat,
} from 'mediabunny';

/**
 * The beginning of a sample film, as a file that a test gives the page: five whole turns say as much as seven, and are looked at and tracked
 * sooner. The pictures are the film's own, not coded anew.
 */
export async function shortFilm(
  film: string,
  seconds = 5,
): Promise<{ name: string; mimeType: string; buffer: Buffer }> {
  const whole = new Input({
    source: new BlobSource(new Blob([readFileSync(`public/demo/${film}.webm`)])),
    formats: [WEBM],
  });
  const track = (await whole.getPrimaryVideoTrack())!;
  const source = new EncodedVideoPacketSource((await track.getCodec())!);
  const output = new Output({ format: new WebMOutputFormat(), target: new BufferTarget() });
  output.addVideoTrack(source);
  await output.start();
  const meta = { decoderConfig: (await track.getDecoderConfig()) ?? undefined };
  for await (const packet of new EncodedPacketSink(track).packets())
    if (packet.timestamp < seconds) await source.add(packet, meta);
  await output.finalize();
  return { name: `${film}.webm`, mimeType: 'video/webm', buffer: Buffer.from(output.target.buffer!) };
}
