// The pose model in a page of its own, loaded only when it is asked for: pictures come in as messages, joints go out.
// It asks nobody but this server for its weights.
const tell = (message) => parent.postMessage({ from: 'pose', ...message }, location.origin);

function hasWebGl() {
  const canvas = document.createElement('canvas');
  return Boolean(canvas.getContext('webgl2') ?? canvas.getContext('webgl'));
}

if (!hasWebGl()) tell({ kind: 'no-webgl' });
else if (typeof Pose === 'undefined')
  tell({ kind: 'failed', why: 'its files are not here yet, and need the network the first time.' });
else {
  const pose = new Pose({ locateFile: (name) => `/pose/model/${name}` });
  pose.setOptions({ modelComplexity: 1, smoothLandmarks: false, minDetectionConfidence: 0.35 });
  let found = null;
  pose.onResults((r) => {
    found = r.poseLandmarks ?? null;
  });
  const canvas = document.createElement('canvas');
  let busy = pose.initialize().then(
    () => tell({ kind: 'ready' }),
    (error) => tell({ kind: 'failed', why: String(error) }),
  );
  addEventListener('message', (e) => {
    if (e.origin !== location.origin || e.data?.to !== 'pose') return;
    const { id, picture } = e.data;
    busy = busy.then(async () => {
      try {
        canvas.width = picture.width;
        canvas.height = picture.height;
        canvas.getContext('2d').drawImage(picture, 0, 0);
        picture.close();
        found = null;
        // Every picture stands for itself: nothing is carried over from the one before.
        pose.reset();
        await pose.send({ image: canvas });
        tell({
          kind: 'found',
          id,
          points:
            found &&
            found.map((p) => ({ x: p.x * canvas.width, y: p.y * canvas.height, sure: p.visibility ?? 0 })),
        });
      } catch (error) {
        tell({ kind: 'found', id, points: null, why: String(error) });
      }
    });
  });
}
