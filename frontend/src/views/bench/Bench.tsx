import { Alert, Button, Space } from "antd";
import { useEffect, useEffectEvent, useState } from "react";
import { useBlocker, useLocation, useNavigate } from "react-router";

import { type Artwork, type Draft, type Frame, type Framing, type Site } from "../../api/client";
import { useArtwork } from "../../api/artwork";
import { useBuilds } from "../../api/builds";
import { editing } from "../../api/saving";
import { useOutcome } from "../../app/telling";
import { Dialog } from "../../app/Dialog";
import styles from "./bench.module.css";
import { Closely } from "./Closely";
import { Controls } from "./Controls";
import { Drafts } from "./Drafts";
import { isOvertaken } from "./keeper";
import { Ladder } from "./Ladder";
import { Proposals } from "./Proposals";
import { framingAt, ownOf, type Picked, withFraming } from "./scope";
import { SeenInPlace } from "./SeenInPlace";
import { Stage } from "./stage/Stage";
import { useBenchKeys } from "./useBenchKeys";
import { useDraftRecipe } from "./useDraftRecipe";
import { StandIn, useStandIns } from "./standIn";
import { type Step, useLadder, usePictures } from "./useLadder";

type Props = { site: Site; artwork: Artwork; draft: Draft; showStored: () => void };

/** The main view: the stage with the square frame, its controls, and every size at true size. */
export function Bench({ site, artwork, draft, showStored }: Props) {
  const { recipe, change, save, saveOver, step, ...keeping } = useDraftRecipe(draft);
  const [ground, setGround] = useState("light");
  const ownGround = ground === "light" || ground === "dark" ? null : ground;
  const pictures = usePictures(site.id);
  const ladder = useLadder({ site, artwork }, recipe, pictures, ownGround);
  const standIns = useStandIns(artwork, recipe);
  const [proposing, setProposing] = useProposing();
  const [picked, setPicked] = useState<Picked>();
  const [held, setHeld] = useState<"installed" | "plain">();
  const builds = useBuilds(site.id);
  const installed = builds.data?.find(({ id }) => id === site.installed_build_id);
  const own = ownOf(recipe, picked);
  const framing = framingAt(recipe, own);
  const other = useArtwork(framing.artwork ? Number(framing.artwork) : undefined);
  const shown = framing.artwork ? other.data : artwork;
  const saveNow = useEffectEvent(() => save());
  useEffect(() => editing(() => saveNow()), []);

  const changeFraming = (part: Partial<Framing>) =>
    change((now) => withFraming(now, ownOf(now, picked), part));
  const isPicked = (one: Picked) => one.size === picked?.size && one.purpose === picked.purpose;
  const rung = ladder.rungs.find(isPicked);
  // Over all sizes, those too that are not drawn yet.
  const walk = (by: number) =>
    setPicked(pictures.at(Math.max(0, Math.min(pictures.findIndex(isPicked) + by, pictures.length - 1))));
  const [opened] = useState(() => keyOf(framing.frame));
  useOutcome(standingOf(framing.frame, ladder.rungs), undefined, opened);
  useBenchKeys({
    frame: framing.frame,
    setFrame: (frame) => changeFraming({ frame }),
    flickGround: () => setGround(ground === "dark" ? "light" : "dark"),
    walkLadder: walk,
    step: (direction) => void step(direction),
    hold: setHeld,
  });
  return (
    <main className={styles.bench}>
      <h1 className="unseen">Bench of {site.name}</h1>
      <Controls
        drafts={<Drafts site={site} draft={draft} />}
        artwork={shown ?? artwork}
        recipe={recipe}
        own={own}
        picked={picked}
        current={rung?.framing}
        change={change}
        changeFraming={changeFraming}
        allSizes={() => setPicked(undefined)}
      />
      {proposing && (
        <Proposals
          site={site}
          artwork={artwork}
          framing={recipe.framing}
          change={change}
          close={() => setProposing(false)}
        />
      )}
      <Stage
        artwork={shown ?? artwork}
        framing={framing}
        setFrame={(frame) => changeFraming({ frame })}
        tools={
          <>
            <Button size="small" aria-pressed={proposing} onClick={() => setProposing(true)}>
              Proposals
            </Button>
            <Steps {...keeping} step={step} />
          </>
        }
        notice={
          keeping.problem && (
            <SaveProblem
              problem={keeping.problem}
              showStored={showStored}
              saveOver={() => void saveOver()}
              retry={() => void save()}
            />
          )
        }
      />
      <StandIn value={standIns}>
        <SeenInPlace
          site={site}
          rungs={ladder.rungs}
          notes={artwork.notes.filter((note) => note.caution).map((note) => note.sentence)}
        >
          {rung && (
            <Closely
              key={`${rung.size} ${rung.purpose}`}
              {...{ site, artworkId: artwork.id, recipe, rung, ownGround, change }}
              close={() => setPicked(undefined)}
            />
          )}
        </SeenInPlace>
        <Ladder
          {...ladder}
          site={site}
          draft={draft}
          ground={ground}
          setGround={setGround}
          picked={picked}
          pick={setPicked}
          builds={builds.data ?? []}
          installed={installed}
          heldInstalled={held === "installed"}
          heldPlain={held === "plain"}
        />
      </StandIn>
      <LeavingUnsaved unsaved={keeping.pending} problem={keeping.problem} draftId={draft.id} />
    </main>
  );
}

const HEARD = [16, 32];
const keyOf = ({ x, y, side }: Frame) => `${x} ${y} ${side}`;

/** Where the frame stands and what becomes of the small sizes, once they are made. */
function standingOf(frame: Frame, rungs: Step[]) {
  const heard = rungs.filter(({ size, purpose }) => purpose === "tab" && HEARD.includes(size));
  if (!heard.length || heard.some(({ outdated }) => outdated)) return undefined;
  const sizes = heard.map(({ size, says }) => `${size} px ${says}`).join("; ");
  const { x, y, side } = frame;
  return { key: keyOf(frame), told: `Frame ${side} px wide at ${x}, ${y}. ${sizes}.` };
}

/** Whether the proposals are shown: at once for a piece that was just put on the bench. */
function useProposing(): [boolean, (proposing: boolean) => void] {
  const { state, pathname } = useLocation();
  const navigate = useNavigate();
  const proposing = (state as { proposals?: boolean } | null)?.proposals === true;
  return [
    proposing,
    (shown) => void navigate(pathname, { replace: true, state: shown ? { proposals: true } : null }),
  ];
}

type StepsProps = {
  canUndo: boolean;
  canRedo: boolean;
  pending: boolean;
  problem: Error | undefined;
  step: (direction: "undo" | "redo") => Promise<void>;
};

function Steps({ canUndo, canRedo, pending, problem, step }: StepsProps) {
  return (
    <>
      <Button size="small" disabled={!canUndo} onClick={() => void step("undo")}>
        Undo
      </Button>
      <Button size="small" disabled={!canRedo} onClick={() => void step("redo")}>
        Redo
      </Button>
      <span className="reading">{problem ? "Not saved" : pending ? "Saving" : "Draft saved"}</span>
    </>
  );
}

type SaveProblemProps = { problem: Error; showStored: () => void; saveOver: () => void; retry: () => void };

function SaveProblem({ problem, showStored, saveOver, retry }: SaveProblemProps) {
  return (
    <Alert
      type="error"
      showIcon
      title={problem.message}
      action={
        isOvertaken(problem) ? (
          <Space>
            <Button onClick={showStored}>Show that version</Button>
            <Button onClick={saveOver}>Keep mine instead</Button>
          </Space>
        ) : (
          <Button onClick={retry}>Try again</Button>
        )
      }
    />
  );
}

type LeavingProps = { unsaved: boolean; problem: Error | undefined; draftId: number };

/** Asks before a change that could not be saved is left behind; it stays in this browser all the same. */
function LeavingUnsaved({ unsaved, problem, draftId }: LeavingProps) {
  const failing = unsaved && problem !== undefined;
  const blocker = useBlocker(
    ({ nextLocation }) => failing && !nextLocation.pathname.endsWith(`/bench/${draftId}`),
  );
  useEffect(() => {
    if (!unsaved) return undefined;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener("beforeunload", warn);
    return () => removeEventListener("beforeunload", warn);
  }, [unsaved]);
  if (blocker.state !== "blocked") return null;
  return (
    <Dialog
      title="The last change is not saved"
      close={blocker.reset}
      foot={
        <>
          <Button onClick={blocker.reset}>Stay here</Button>
          <Button type="primary" onClick={blocker.proceed}>
            Leave the bench
          </Button>
        </>
      }
    >
      <p>{problem?.message}</p>
      <p>It stays in this browser, and Bexi saves it when you come back to this draft.</p>
    </Dialog>
  );
}
