import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Alert, Segmented } from "antd";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { useDrawingPreview, useFaces, useInitials } from "../../../api/artwork";
import { beginWith } from "../../../api/beginnings";
import { answer, client, type Letters } from "../../../api/client";
import { useOutcome } from "../../../app/telling";
import { Loading } from "../../../app/Loading";
import { TrueSize } from "../../../app/TrueSize";
import styles from "./begun.module.css";

const FACES = 4;
const HEAVY = 700;
const SIZES = [16, 32];
/** As they are: initials, not a name. */
const INITIALS = /^[\p{L}\p{N}]{1,3}$/u;
/** Ink and plate; each pair has a contrast of 4.5 : 1 and more. */
const COLOURS: [string, string, string][] = [
  ["green", "#f2b84b", "#16302a"],
  ["blue", "#ffffff", "#1d4f8c"],
  ["red", "#ffffff", "#a32a1f"],
  ["yellow", "#2a2410", "#f2c53d"],
];

/** Letters for a name in four faces and colours, at the sizes of a tab: one is taken with a press. */
export function LettersOffered({ name }: { name: string }) {
  const faces = useFaces();
  const initials = useInitials(name);
  const [chosen, setText] = useState<string>();
  const [colour, setColour] = useState("green");
  const take = useTakeLetters(name);
  useOutcome(
    faces.data && !initials.isPending
      ? {
          key: name,
          told: `Letters for ${name}, in ${FACES} faces and ${COLOURS.length} colours, are below the field.`,
        }
      : { key: "none", told: "" },
  );
  if (!faces.data || initials.isPending) return <Loading what="Setting the letters" />;
  const own = INITIALS.test(name) ? [name] : [];
  const offered = [...new Set([...own, ...(initials.data ?? [])])];
  const text = chosen ?? offered[0] ?? name.slice(0, 1);
  const [, ink = "", plate = ""] = COLOURS.find(([label]) => label === colour) ?? [];
  return (
    <section className={styles.letters} aria-label={`Letters for ${name}`}>
      <h2>Letters for {name}</h2>
      <div className={styles.choices}>
        {offered.length > 1 && (
          <Segmented aria-label="Which letters" value={text} options={offered} onChange={setText} />
        )}
        <Segmented
          aria-label="Colour"
          value={colour}
          options={COLOURS.map(([label]) => label)}
          onChange={setColour}
        />
      </div>
      <div className={styles.faces} role="group" aria-label="Fonts">
        {faces.data.slice(0, FACES).map((face) => (
          <Face
            key={face.key}
            name={face.name}
            letters={{
              kind: "letters",
              text,
              face: face.key,
              weight: face.weights.find((weight) => weight >= HEAVY) ?? face.weights.at(-1) ?? HEAVY,
              tracking: 0,
              ink,
              plate: { shape: "rounded", colour: plate, radius: 20, margin: 10 },
            }}
            busy={take.isPending}
            take={take.mutate}
          />
        ))}
      </div>
      {take.error && <Alert type="error" showIcon title={take.error.message} />}
      <p className={styles.made}>
        Choose one to continue, or <Link to="/">start with a logo instead</Link>.
      </p>
    </section>
  );
}

/** Draws the letters, keeps them as artwork and begins with that. */
function useTakeLetters(name: string) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async (drawing: Letters) => {
      const artwork = await answer(client.POST("/api/drawings", { body: { drawing } }));
      return beginWith(artwork.id, name);
    },
    onSuccess: ({ id }) => {
      void queries.invalidateQueries();
      void navigate(`/?begun=${id}`);
    },
  });
}

type FaceProps = { name: string; letters: Letters; busy: boolean; take: (letters: Letters) => void };

function Face({ name, letters, busy, take }: FaceProps) {
  const preview = useDrawingPreview(letters);
  if (preview.error) return <Alert type="error" title={preview.error.message} />;
  return (
    <button
      type="button"
      disabled={busy || !preview.data}
      aria-label={`${letters.text} in ${name}`}
      onClick={() => take(letters)}
    >
      <span className={styles.sizes}>
        {SIZES.map((size) => {
          const picture = preview.data?.pictures.find((one) => one.size === size);
          return (
            picture && <TrueSize key={size} src={`data:image/png;base64,${picture.png}`} size={size} alt="" />
          );
        })}
      </span>
      {name}
    </button>
  );
}
