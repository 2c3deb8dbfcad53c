import type { Ref } from 'react';

/** The hidden field behind a button that asks for a file: clicking the field opens the choice. The same file may be chosen again. */
export function FileField({
  ref,
  accept,
  testId,
  onFile,
}: {
  ref?: Ref<HTMLInputElement>;
  accept: string;
  testId: string | undefined;
  onFile: (file: File) => void;
}) {
  return (
    <input
      ref={ref}
      type="file"
      hidden
      accept={accept}
      data-testid={testId}
      onChange={(e) => {
        const file = e.target.files?.[0];
        e.target.value = '';
        if (file) onFile(file);
      }}
    />
  );
}
