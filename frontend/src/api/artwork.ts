/** Artwork, on the shelf and on a site. */

import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { piece, site, useChange, useSave } from "./asking";
import {
  answer,
  client,
  type Details,
  type Drawing,
  type PictureOnSite,
  type ShelfKind,
  type Treatment,
} from "./client";

export const useShelf = (search: string, kind: ShelfKind, page: number) =>
  useQuery({
    queryKey: ["shelf", search, kind, page],
    queryFn: () => answer(client.GET("/api/artwork", { params: { query: { search, kind, page } } })),
    placeholderData: keepPreviousData,
  });

export const useArtwork = (artworkId: number | undefined) =>
  useQuery({
    queryKey: ["artwork", artworkId],
    queryFn: () => answer(client.GET("/api/artwork/{artwork_id}", piece(artworkId ?? 0))),
    enabled: artworkId !== undefined,
  });

export const useLicences = () =>
  useQuery({
    queryKey: ["licences"],
    queryFn: () => answer(client.GET("/api/licences")),
    staleTime: Infinity,
  });

export const useFaces = () =>
  useQuery({ queryKey: ["faces"], queryFn: () => answer(client.GET("/api/faces")), staleTime: Infinity });

export const useSymbols = (words: string) =>
  useQuery({
    queryKey: ["symbols", words],
    queryFn: () => answer(client.GET("/api/symbols", { params: { query: { words } } })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });

export const useSymbolKinds = () =>
  useQuery({
    queryKey: ["symbol-kinds"],
    queryFn: () => answer(client.GET("/api/symbol-kinds")),
    staleTime: Infinity,
  });

/** Letters that may stand for a name, the likeliest first. */
export const useInitials = (name: string) =>
  useQuery({
    queryKey: ["initials", name],
    queryFn: () => answer(client.GET("/api/initials", { params: { query: { name } } })),
    staleTime: Infinity,
  });

export const useDrawingPreview = (drawing: Drawing) =>
  useQuery({
    queryKey: ["drawing-preview", drawing],
    queryFn: ({ signal }) => answer(client.POST("/api/drawings/preview", { body: { drawing }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: Infinity,
  });

export const usePicturesOnSite = (siteId: number) =>
  useQuery({
    queryKey: ["pictures-on-site", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/pictures", site(siteId))),
  });

export const useChangeDetails = (artworkId: number) =>
  useSave((body: Details) => answer(client.PUT("/api/artwork/{artwork_id}", { ...piece(artworkId), body })));

export const useChangeTreatment = (artworkId: number) =>
  useSave((body: Treatment) =>
    answer(client.PUT("/api/artwork/{artwork_id}/treatment", { ...piece(artworkId), body })),
  );

export const useRemoveArtwork = () =>
  useChange((artworkId: number) => answer(client.DELETE("/api/artwork/{artwork_id}", piece(artworkId))));

export const useKeepDrawing = (artworkId: number | undefined) =>
  useSave((drawing: Drawing) =>
    artworkId === undefined
      ? answer(client.POST("/api/drawings", { body: { drawing } }))
      : answer(client.PUT("/api/artwork/{artwork_id}/drawing", { ...piece(artworkId), body: { drawing } })),
  );

export const useAddFromSite = (siteId: number) =>
  useChange((body: PictureOnSite) =>
    answer(client.POST("/api/sites/{site_id}/pictures", { ...site(siteId), body })),
  );
