import { useSearchParams } from "react-router";

import type { Drawing } from "../../../api/client";
import { useArtwork } from "../../../api/artwork";
import { useSite } from "../../../app/SiteFrame";

/** The artwork whose drawing is being changed, when the address names one of this kind. */
export function useDrawn(kind: Drawing["kind"]) {
  const site = useSite();
  const [address] = useSearchParams();
  const asked = address.get("change");
  const artwork = useArtwork(asked ? Number(asked) : undefined);
  const changed = artwork.data?.drawing?.kind === kind ? artwork.data : undefined;
  return { site, changed, ready: !artwork.isLoading };
}
