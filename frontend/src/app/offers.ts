/** Which of the framings on offer is the one in use. */

import type { Framing, Offer, Recipe } from "../api/client";

/** Whether a framing is the one on offer; letters become the framing's own artwork. */
export function isChosen(offer: Offer, framing: Framing): boolean {
  if (offer.letters ? !framing.artwork : framing.artwork !== offer.framing.artwork) return false;
  const told = ({ frame, ground, plate, cut, lift, finish }: Framing) =>
    JSON.stringify([
      ...[frame.x, frame.y, frame.side, ground, plate?.shape, plate?.colour],
      ...[cut?.left, cut?.top, cut?.outline?.length, lift, finish?.recolour],
    ]);
  return told(offer.framing) === told(framing);
}

/** Whether a recipe is the framing on offer and nothing else, so that the pictures of the offer are its icons. */
export const isAsOffered = (offer: Offer, recipe: Recipe | undefined) =>
  recipe?.own.length === 0 && JSON.stringify(recipe.framing) === JSON.stringify(offer.framing);
