import { Alert, Button } from "antd";
import { use, useEffect, useState } from "react";

import { type Artwork, type Draft, Problem, type Site } from "../../api/client";
import { DraftSaving } from "../../app/draftSaving";
import styles from "./bench.module.css";
import { Controls } from "./Controls";
import { Ladder } from "./Ladder";
import { SeenInPlace } from "./SeenInPlace";
import { Stage } from "./Stage";
import { useBenchKeys } from "./useBenchKeys";
import { useDraftRecipe } from "./useDraftRecipe";
import { useLadder } from "./useLadder";

type Props = { site: Site; artwork: Artwork; draft: Draft; showStored: () => void };

/** The main view: the stage with the square frame, its controls, and every size at true size. */
export function Bench({ site, artwork, draft, showStored }: Props) {
  const { recipe, change, save, pending, problem } = useDraftRecipe(site.id, draft);
  const ladder = useLadder(artwork.id, recipe);
  const [dark, setDark] = useState(false);
  const draftSaving = use(DraftSaving);
  useEffect(() => draftSaving.open(save), [draftSaving, save]);
  useBenchKeys({
    frame: recipe.frame,
    setFrame: (frame) => change({ frame }),
    flickGround: () => setDark(!dark),
  });
  return (
    <main className={styles.bench}>
      <h1 className="unseen">Bench of {site.name}</h1>
      <Controls artwork={artwork} recipe={recipe} change={change} />
      <Stage
        artwork={artwork}
        frame={recipe.frame}
        ground={recipe.ground}
        setFrame={(frame) => change({ frame })}
        status={problem ? "Not saved" : pending ? "Saving the draft" : "Draft saved"}
        notice={
          problem && <SaveProblem problem={problem} showStored={showStored} retry={() => void save()} />
        }
      />
      <SeenInPlace
        site={site}
        rungs={ladder.rungs}
        notes={artwork.notes.filter((note) => note.caution).map((note) => note.sentence)}
      />
      <Ladder rungs={ladder.rungs} problem={ladder.problem} dark={dark} setDark={setDark} />
    </main>
  );
}

type SaveProblemProps = { problem: Error; showStored: () => void; retry: () => void };

function SaveProblem({ problem, showStored, retry }: SaveProblemProps) {
  const overtaken = problem instanceof Problem && problem.code === "draft-changed-elsewhere";
  return (
    <Alert
      type="error"
      showIcon
      title={problem.message}
      action={
        <Button onClick={overtaken ? showStored : retry}>
          {overtaken ? "Show that version" : "Try again"}
        </Button>
      }
    />
  );
}
