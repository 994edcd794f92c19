/** Sends a file as a stream of bytes, with progress, and can be cancelled. */
import { ApiError, readAnswer } from "../common/api";

export interface Upload {
  done: Promise<{ id: number }>;
  cancel(): void;
}

/** `onProgress` gets the share sent, 0 to 1; at 1 the server is still reading the program. */
export function upload(file: File, onProgress: (share: number) => void): Upload {
  const request = new XMLHttpRequest();
  const done = new Promise<{ id: number }>((resolve, reject) => {
    request.upload.onprogress = ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0);
    request.onload = () => {
      try {
        resolve(readAnswer<{ id: number }>(request.status, request.responseText));
      } catch (error) {
        reject(error instanceof Error ? error : new Error(String(error)));
      }
    };
    request.onerror = () => reject(new ApiError(0, "Cuchara doesn't answer. Is it still running?"));
    request.onabort = () => reject(new ApiError(499, "Cancelled."));
    request.open("POST", `/api/files?name=${encodeURIComponent(file.name)}`);
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.send(file);
  });
  return { done, cancel: () => request.abort() };
}
