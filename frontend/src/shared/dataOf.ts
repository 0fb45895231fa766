/** Bytes as a data: URL. */
export const dataOf = (bytes: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = Object.assign(new FileReader(), {
      onload: () => resolve(reader.result as string),
      onerror: () => reject(reader.error as Error),
    });
    reader.readAsDataURL(bytes);
  });
