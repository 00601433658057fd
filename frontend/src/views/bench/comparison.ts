import type { Build, Picture } from "../../api/client";

/** Where the picture of a rung in an earlier build is, undefined when that build has none of this size. */
export function pictureIn(build: Build, { size, purpose }: Picture): string | undefined {
  const files = build.files.filter(
    (file) => file.purpose === purpose && file.width === null && file.sizes.includes(size),
  );
  const file = files.find(({ sizes }) => sizes.length === 1) ?? files[0];
  if (!file) return undefined;
  const address = `/api/builds/${build.id}/files/${file.name}`;
  return file.sizes.length === 1 ? address : `${address}/frames/${size}`;
}
