import createClient, { type Middleware } from "openapi-fetch";

import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Site = Schemas["SiteOut"];
export type Beginning = Schemas["BeginningOut"];
export type SiteInput = Schemas["SiteIn"];
export type PlaceKind = Schemas["PlaceKindOut"];
export type Artwork = Schemas["ArtworkOut"];
export type Details = Schemas["DetailsBody"];
export type Treatment = Schemas["Treatment"];
export type Letters = Schemas["LettersBody"];
export type SymbolDrawing = Schemas["SymbolBody"];
export type Drawing = Letters | SymbolDrawing;
export type Plate = Schemas["Plate"];
export type PictureOnSite = Schemas["PictureOnSite"];
export type Note = Schemas["NoteOut"];
export type ShelfKind = "all" | "shapes" | "pixels" | "drawn" | "unused";
export type Frame = Schemas["Frame"];
export type Framing = Schemas["Framing"];
export type HandStep = Schemas["HandStep"];
export type Own = Schemas["Own"];
export type Recipe = Schemas["Recipe"];
export type Draft = Schemas["DraftOut"];
export type Rung = Schemas["RungOut"];
export type Grip = Schemas["Grip"];
export type Offer = Schemas["OfferOut"];
export type Group = Schemas["GroupOut"];
export type CloseLook = Schemas["CloseOut"];
export type Build = Schemas["BuildOut"];
export type BuiltFile = Schemas["BuildFileOut"];
export type Picture = Schemas["PictureBody"];
export type Purpose = Picture["purpose"];
export type PlannedFile = Schemas["PlannedFileOut"];
export type SetPlan = Schemas["PlanOut"];
export type PlanChoices = Required<Schemas["Plan"]>;
export type AppMembers = Required<Schemas["InstalledApp"]>;
export type Cost = Schemas["CostOut"];
export type BuildRun = Schemas["BuildRunOut"];
export type FileDifference = Schemas["FileDifferenceOut"];
export type Requirement = Required<Schemas["Requirement"]>;
export type KeptRequirement = Schemas["RequirementOut"];
export type Fit = Schemas["FitOut"];
export type InstallPlan = Schemas["InstallPlanOut"];
export type InstallStep = Schemas["StepOut"];
export type Found = Schemas["FoundOut"];
export type ByHandCase = Schemas["CaseOut"];
export type InstalledFile = Schemas["InstalledFileOut"];
export type Planning = Schemas["PlanningOut"];
export type Install = Schemas["InstallOut"];
export type Connection = Schemas["ConnectionOut"];
export type Versions = Schemas["VersionsOut"];
export type Check = Schemas["CheckOut"];
export type CheckSummary = Schemas["CheckSummary"];
export type Finding = Schemas["CheckFindingOut"];
export type Report = Schemas["ReportOut"];
export type TimeLine = Schemas["TimeLineOut"];
export type Shown = Schemas["ShownOut"];
export type Visitor = Schemas["VisitorOut"];
export type OpenTab = Schemas["TabOut"];
export type Sighted = Schemas["SightOut"];
export type WatchInput = Required<Schemas["WatchIn"]>;
export type Me = Schemas["MeOut"];
export type Role = Me["role"];
export type Account = Schemas["AccountOut"];
export type AccountInput = Schemas["AccountIn"];
export type TokenInput = Schemas["TokenIn"];
export type NewToken = Schemas["NewTokenOut"];
export type Activity = Schemas["ActivityOut"];
export type Planned = Schemas["PlannedOut"];
export type Entry = Schemas["EntryOut"];

/** An error of the API: its code for programs, its sentence as the message. */
export class Problem extends Error {
  constructor(
    readonly code: string,
    sentence: string,
    /** Of a server that nobody has agreed to yet. */
    readonly fingerprint?: string,
    /** Of a file that somebody changed since. */
    readonly path?: string,
  ) {
    super(sentence);
  }
}

/** Whether the server said no; else it did not answer, or not as it does. */
export const isRefusal = (error: unknown) =>
  error instanceof Problem && error.code !== "unreachable" && error.code !== "unknown";

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]*)/.exec(document.cookie)?.[1] ?? "";
}

export function problemFrom(body: unknown): Problem {
  const { code, detail, fingerprint, path } = (body ?? {}) as {
    code?: string;
    detail?: string;
    fingerprint?: string;
    path?: string;
  };
  return new Problem(
    code ?? "unknown",
    detail ?? "Bexi did not answer as expected. Reload the page and try again.",
    fingerprint,
    path,
  );
}

const sendToken: Middleware = {
  onRequest({ request }) {
    request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: "/", headers: { Accept: "application/json" } });
client.use(sendToken);

/** In place of what a browser says of a server that does not answer, or not to its end. */
export function refuseSilence(cause: unknown): never {
  if (cause instanceof DOMException && cause.name === "AbortError") throw cause;
  if (cause instanceof Problem) throw cause;
  throw new Problem(
    "unreachable",
    "Bexi does not answer. Is it still running? Nothing you entered here is lost.",
  );
}

/** The data of an answer; throws a Problem when it is an error. */
export async function answer<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await request.catch(refuseSilence);
  if (!response.ok) throw problemFrom(error);
  return data as T;
}

/** A picture that a check saw, at the size in px at which it is shown. */
export const pictureOf = (checkId: number, sha256: string, px: number) =>
  `/api/checks/${checkId}/pictures/${sha256}?px=${px}`;
