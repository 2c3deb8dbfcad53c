/** Why there is no camera, in words that say what to do. */
export function cameraTrouble(error: unknown): string {
  switch ((error as { name?: string }).name) {
    case 'NotAllowedError':
      return 'The browser was not allowed to use the camera. Allow it for this page (beside the address), then try again.';
    case 'NotFoundError':
      return 'No camera is connected to this device. Connect one, or bring in a film from a file.';
    case 'NotReadableError':
      return 'The camera is in use by another program. Close that one, then try again.';
    case 'OverconstrainedError':
      return 'This camera does not offer that rate. Choose another one.';
    default:
      return `The camera can’t be used: ${error instanceof Error ? error.message : String(error)}`;
  }
}

/** Whether this page may ask for a camera: browsers give none to a page that came over plain http from another device. */
export const mayHaveCamera = (): boolean => Boolean((navigator as Partial<Navigator>).mediaDevices);

/** A camera of this device, without sound. @param cameraId '' for whichever the browser takes */
export const openCamera = (
  cameraId: string,
  { widthPx, heightPx, framesPerS }: { widthPx: number; heightPx: number; framesPerS: number },
): Promise<MediaStream> =>
  navigator.mediaDevices.getUserMedia({
    audio: false,
    video: {
      ...(cameraId && { deviceId: { exact: cameraId } }),
      width: { ideal: widthPx },
      height: { ideal: heightPx },
      frameRate: { ideal: framesPerS },
    },
  });

/** The cameras of this device, by name once one of them may be used. */
export const camerasHere = async (): Promise<MediaDeviceInfo[]> =>
  (await navigator.mediaDevices.enumerateDevices()).filter((d) => d.kind === 'videoinput');

interface Processor {
  readable: ReadableStream<VideoFrame>;
}
type ProcessorOf = new (of: { track: MediaStreamTrack; maxBufferSize?: number }) => Processor;

/** Pictures wait for each other while a turn is read; more of them are lost to a computer that is too slow. */
const WAITING = 24;

/** A camera's pictures, one by one as they come; from what is shown of it where the browser hands them over in no other way. */
export function picturesOf(stream: MediaStream): ReadableStream<VideoFrame> {
  const [track] = stream.getVideoTracks();
  const { MediaStreamTrackProcessor } = globalThis as { MediaStreamTrackProcessor?: ProcessorOf };
  if (MediaStreamTrackProcessor)
    return new MediaStreamTrackProcessor({ track, maxBufferSize: WAITING }).readable;
  const video = document.createElement('video');
  video.muted = true;
  video.srcObject = stream;
  void video.play();
  return new ReadableStream<VideoFrame>({
    pull: (to) =>
      new Promise<void>((next) =>
        video.requestVideoFrameCallback((_, { mediaTime }) => {
          to.enqueue(new VideoFrame(video, { timestamp: Math.round(1e6 * mediaTime) }));
          next();
        }),
      ),
    cancel: () => {
      video.srcObject = null;
    },
  });
}
