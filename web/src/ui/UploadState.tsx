/** How a recording that comes in stands: how far it is decoded, what to know of it, or why it cannot be used. */
import type { ReactElement } from 'react';
import type { Upload } from '../api/recordings.js';
import { Progress } from './Progress.js';

export function UploadState({ upload, fault }: { upload: Upload; fault?: string | undefined }): ReactElement {
  const sentence = upload.fault ?? fault;
  const isBusy = !upload.recording && !upload.fault;
  return (
    <div className="flex flex-col gap-1 text-[14px]">
      {isBusy && <Progress label="Decoding the recording" done={upload.done} message={upload.message} />}
      {!sentence &&
        upload.notes?.map((note) => (
          <p key={note} className="text-ink-soft" role="status">
            {note}
          </p>
        ))}
      <p className="text-bad" role="alert">
        {sentence}
      </p>
    </div>
  );
}

/** What a chooser of recordings offers. */
export const RECORDING_FILES = '.wav,.flac,.mp3,.ogg,.oga,.opus,.m4a,.aac,.mp4,.mov,.webm,.mkv,audio/*,video/*';
