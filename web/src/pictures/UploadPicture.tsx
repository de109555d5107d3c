import { useMutation } from '@tanstack/react-query';
import { useId } from 'react';
import { answer, api } from '../api/client';
import { ProblemNote } from '../shell/states';
import { words } from '../words/portal';

/** Takes a PNG or SVG; it is looked through and drawn anew on the server before anybody sees it. */
export function UploadPicture({ onDone }: { onDone: (picture: string) => void }) {
  const id = useId();
  const upload = useMutation({
    mutationFn: (file: File) =>
      answer(
        api.POST('/api/pictures', {
          headers: { 'Content-Type': 'application/octet-stream' },
          // The file is the body as it is.
          bodySerializer: () => file,
          body: file,
        } as never),
      ),
    onSuccess: (kept) => onDone((kept as { picture: string }).picture),
  });
  return (
    <div className="upload">
      <label className="btn btn-outline-primary btn-sm" htmlFor={id}>
        {upload.isPending ? words.pictures.uploading : words.pictures.upload}
      </label>
      <input
        id={id}
        type="file"
        className="visually-hidden"
        accept="image/png,image/svg+xml"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file !== undefined) {
            upload.mutate(file);
          }
        }}
      />
      <span className="small dim">{words.pictures.uploadHelp}</span>
      <ProblemNote error={upload.error} />
    </div>
  );
}
