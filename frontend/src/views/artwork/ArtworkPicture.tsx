import type { Artwork } from "../../api/client";

type Props = { artwork: Artwork; longest: number; className: string };

/** With its flat ground lifted by a tolerance, if one is given, and inside its ink, too. */
export const pictureAddress = (artwork: Artwork, longest: number, lift?: number | null, inside = false) =>
  `/api/artwork/${artwork.id}/picture${lift ? "/lifted" : ""}?longest=${longest}&version=${artwork.version}` +
  (lift ? `&tolerance=${lift}&inside=${inside}` : "");

/** The whole artwork on a checked ground, scaled to its place: a picture of the artwork, not of an icon. */
export function ArtworkPicture({ artwork, longest, className }: Props) {
  return (
    <span className={`clear-ground ${className}`}>
      <img src={pictureAddress(artwork, longest)} alt="" loading="lazy" />
    </span>
  );
}
