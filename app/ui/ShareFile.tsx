import Button from '@mui/material/Button';
import { notify } from '../session/notices';
import { download } from './download';

/** Hands a file on: by the device's own share sheet where it has one, or saved and with a letter begun in the mail program. */
export function ShareFile({
  name,
  blob,
  subject,
  email,
}: {
  name: string;
  /** Null while it is being made. */
  blob: Blob | null;
  subject: string;
  /** Where to; empty where it is not known. */
  email: string;
}) {
  const file = blob && new File([blob], name, { type: blob.type });
  const shares = file !== null && Boolean(navigator.canShare?.({ files: [file] }));
  const letter = `mailto:${encodeURIComponent(email).replace('%40', '@')}?subject=${encodeURIComponent(subject)}`;
  return (
    <>
      {shares && (
        <Button
          variant="outlined"
          onClick={() =>
            // Closing the share sheet is no failure.
            void navigator.share({ files: [file], title: subject }).catch(() => undefined)
          }
        >
          Share…
        </Button>
      )}
      <Button
        variant="outlined"
        disabled={!file}
        href={letter}
        onClick={() => {
          download(name, blob!);
          notify(`“${name}” is saved: attach it to the letter.`);
        }}
      >
        Email…
      </Button>
    </>
  );
}
