import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import {
  answer,
  type BuildRun,
  client,
  type Details,
  type Draft,
  type Drawing,
  type Install,
  type Picture,
  type PictureOnSite,
  type PlanChoices,
  type Planning,
  type Requirement,
  type ShelfKind,
  type SiteInput,
  type Treatment,
} from "./client";

const site = (siteId: number) => ({ params: { path: { site_id: siteId } } });

export const useSites = () =>
  useQuery({ queryKey: ["sites"], queryFn: () => answer(client.GET("/api/sites")) });

const piece = (artworkId: number) => ({ params: { path: { artwork_id: artworkId } } });

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

export const useDraft = (siteId: number) =>
  useQuery({
    queryKey: ["draft", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/draft", site(siteId))),
  });

export const useDraftById = (draftId: number | undefined) =>
  useQuery({
    queryKey: ["draft-by-id", draftId],
    queryFn: () =>
      answer(client.GET("/api/drafts/{draft_id}", { params: { path: { draft_id: draftId ?? 0 } } })),
    enabled: draftId !== undefined,
  });

export const useDrafts = (siteId: number) =>
  useQuery({
    queryKey: ["drafts", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/drafts", site(siteId))),
  });

/** The icons of a draft that is not on the bench. */
export const useRungsOf = (draft: Draft | undefined, pictures: Picture[]) =>
  useQuery({
    queryKey: ["rungs", draft?.id, draft?.revision, pictures],
    queryFn: () =>
      answer(
        client.POST("/api/artwork/{artwork_id}/ladder", {
          ...piece(draft?.artwork_id ?? 0),
          body: { recipe: draft?.recipe as Draft["recipe"], pictures },
        }),
      ),
    enabled: draft !== undefined,
  });

export const useCatalogue = () =>
  useQuery({
    queryKey: ["catalogue"],
    queryFn: () => answer(client.GET("/api/catalogue")),
    staleTime: Infinity,
  });

export const useReadyPlans = () =>
  useQuery({
    queryKey: ["ready-plans"],
    queryFn: () => answer(client.GET("/api/plans")),
    staleTime: Infinity,
  });

export const useSetPlan = (siteId: number) =>
  useQuery({
    queryKey: ["set-plan", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/plan", site(siteId))),
  });

/** What every file of the catalogue would take, made from the draft; the last known while it is made anew. */
export const useCosts = (siteId: number, enabled: boolean) =>
  useQuery({
    queryKey: ["costs", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/costs", site(siteId))),
    enabled,
    retry: false,
    placeholderData: keepPreviousData,
  });

export const useRequirements = () =>
  useQuery({ queryKey: ["requirements"], queryFn: () => answer(client.GET("/api/requirements")) });

const WATCHED_EVERY_MS = 300;

/** The latest build run of a site, watched while it is under way. */
export const useBuildRun = (siteId: number) =>
  useQuery({
    queryKey: ["build-run", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/build-run", site(siteId))),
    refetchInterval: ({ state }) => (isUnderWay(state.data) ? WATCHED_EVERY_MS : false),
  });

export const isUnderWay = (run: BuildRun | null | undefined) =>
  run?.state === "waiting" || run?.state === "running";

export const useComparison = (buildId: number, earlierId: number) =>
  useQuery({
    queryKey: ["comparison", buildId, earlierId],
    queryFn: () =>
      answer(
        client.GET("/api/builds/{build_id}/compared-with/{earlier_id}", {
          params: { path: { build_id: buildId, earlier_id: earlierId } },
        }),
      ),
    staleTime: Infinity,
  });

export const useBuilds = (siteId: number) =>
  useQuery({
    queryKey: ["builds", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/builds", site(siteId))),
  });

export type PlanQuestion = { secret: string; pages: string };

/** The plan of the latest build, made in the background: ordered anew for each question, then watched. */
export function usePlanning(siteId: number, question: PlanQuestion, enabled: boolean) {
  const ordered = useQuery({
    queryKey: ["planning-ordered", siteId, question],
    queryFn: () => answer(client.POST("/api/sites/{site_id}/plannings", { ...site(siteId), body: question })),
    enabled,
    retry: false,
    gcTime: 0, // a plan is about the site as it is now
    staleTime: Infinity, // but it is not made anew because somebody looks at another window
  });
  const id = ordered.data?.id ?? 0;
  const watched = useQuery({
    queryKey: ["planning", id],
    queryFn: () => answer(client.GET("/api/plannings/{planning_id}", planning(id))),
    enabled: id > 0 && !ordered.isFetching,
    initialData: ordered.data,
    refetchInterval: ({ state }) => (state.data && isPlanning(state.data) ? WATCHED_EVERY_MS : false),
  });
  return {
    planning: ordered.isFetching ? undefined : watched.data,
    error: ordered.error ?? watched.error,
    again: () => void ordered.refetch(),
  };
}

export const isPlanning = ({ state, lost }: Planning) =>
  !lost && (state === "waiting" || state === "reading");

const planning = (planningId: number) => ({ params: { path: { planning_id: planningId } } });

export const useStopPlanning = () =>
  useMutation({
    mutationFn: (planningId: number) =>
      answer(client.POST("/api/plannings/{planning_id}/stop", planning(planningId))),
  });

export const useDifference = (planningId: number, path: string, secret: string, enabled: boolean) =>
  useQuery({
    queryKey: ["difference", planningId, path],
    queryFn: () =>
      answer(
        client.POST("/api/plannings/{planning_id}/difference", {
          ...planning(planningId),
          body: { path, secret },
        }),
      ),
    enabled,
    retry: false,
    staleTime: Infinity,
  });

export const useByHandCases = () =>
  useQuery({
    queryKey: ["by-hand-cases"],
    queryFn: () => answer(client.GET("/api/by-hand-cases")),
    staleTime: Infinity,
  });

/** What was installed and undone, the latest first; watched while something is under way. */
export const useInstalls = (siteId: number) =>
  useQuery({
    queryKey: ["installs", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/installs", site(siteId))),
    refetchInterval: ({ state }) => (state.data?.some(isInstalling) ? WATCHED_EVERY_MS : false),
  });

export const useInstalledFiles = (installId: number, enabled: boolean) =>
  useQuery({
    queryKey: ["installed-files", installId],
    queryFn: () => answer(client.GET("/api/installs/{install_id}/files", install(installId))),
    enabled,
    staleTime: Infinity,
  });

export const isInstalling = ({ state, lost }: Install) =>
  !lost && (state === "waiting" || state === "started");

export const useCheck = (siteId: number) =>
  useQuery({
    queryKey: ["check", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/check", site(siteId))),
  });

/** A change after which everything shown is asked for again. */
function useChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: change, onSettled: () => queries.invalidateQueries() });
}

export const useAddSite = () => useChange((body: SiteInput) => answer(client.POST("/api/sites", { body })));

export const useChangeSite = (siteId: number) =>
  useChange((body: SiteInput) => answer(client.PUT("/api/sites/{site_id}", { ...site(siteId), body })));

export const useBuildSite = (siteId: number) =>
  useMutation({
    mutationFn: (body: { draft_id: number; revision: number }) =>
      answer(client.POST("/api/sites/{site_id}/builds", { ...site(siteId), body })),
  });

export const useStopRun = () =>
  useChange((runId: number) =>
    answer(client.POST("/api/build-runs/{run_id}/stop", { params: { path: { run_id: runId } } })),
  );

export const useBuildAgain = () =>
  useMutation({
    mutationFn: (buildId: number) =>
      answer(client.POST("/api/builds/{build_id}/again", { params: { path: { build_id: buildId } } })),
  });

export const useChangePlan = (siteId: number) =>
  useChange((body: PlanChoices) =>
    answer(client.PUT("/api/sites/{site_id}/plan", { ...site(siteId), body })),
  );

export const useFit = (siteId: number) =>
  useMutation({
    mutationFn: (body: Requirement) =>
      answer(client.POST("/api/sites/{site_id}/fit", { ...site(siteId), body })),
  });

export const useKeepRequirement = () =>
  useChange((body: Requirement & { name: string }) => answer(client.POST("/api/requirements", { body })));

export const useForgetRequirement = () =>
  useChange((id: number) =>
    answer(client.DELETE("/api/requirements/{requirement_id}", { params: { path: { requirement_id: id } } })),
  );

export const useConnect = (siteId: number) =>
  useChange((body: { secret: string; keep: boolean; trust: string }) =>
    answer(client.POST("/api/sites/{site_id}/connection", { ...site(siteId), body })),
  );

export const useInstall = (siteId: number) =>
  useChange((body: { planning_id: number; secret: string }) =>
    answer(client.POST("/api/sites/{site_id}/installs", { ...site(siteId), body })),
  );

const install = (installId: number) => ({ params: { path: { install_id: installId } } });

export const useStopInstall = () =>
  useChange((installId: number) =>
    answer(client.POST("/api/installs/{install_id}/stop", install(installId))),
  );

export const usePutBack = (secret: string) =>
  useChange((installId: number) =>
    answer(client.POST("/api/installs/{install_id}/put-back", { ...install(installId), body: { secret } })),
  );

export const useUndoInstall = (secret: string) =>
  useChange(({ id, over = [], leave = [] }: { id: number; over?: string[]; leave?: string[] }) =>
    answer(client.POST("/api/installs/{install_id}/undo", { ...install(id), body: { secret, over, leave } })),
  );

export const useVersions = (installId: number, path: string, secret: string) =>
  useQuery({
    queryKey: ["versions", installId, path],
    queryFn: () =>
      answer(
        client.POST("/api/installs/{install_id}/versions", { ...install(installId), body: { path, secret } }),
      ),
    gcTime: 0,
  });

export const useCheckSite = (siteId: number) =>
  useChange(() => answer(client.POST("/api/sites/{site_id}/check", site(siteId))));

export const useChangeDetails = (artworkId: number) =>
  useChange((body: Details) =>
    answer(client.PUT("/api/artwork/{artwork_id}", { ...piece(artworkId), body })),
  );

export const useChangeTreatment = (artworkId: number) =>
  useChange((body: Treatment) =>
    answer(client.PUT("/api/artwork/{artwork_id}/treatment", { ...piece(artworkId), body })),
  );

export const useRemoveArtwork = () =>
  useChange((artworkId: number) => answer(client.DELETE("/api/artwork/{artwork_id}", piece(artworkId))));

export const useKeepDrawing = (artworkId: number | undefined) =>
  useChange((drawing: Drawing) =>
    artworkId === undefined
      ? answer(client.POST("/api/drawings", { body: { drawing } }))
      : answer(client.PUT("/api/artwork/{artwork_id}/drawing", { ...piece(artworkId), body: { drawing } })),
  );

export const useAddFromSite = (siteId: number) =>
  useChange((body: PictureOnSite) =>
    answer(client.POST("/api/sites/{site_id}/pictures", { ...site(siteId), body })),
  );
