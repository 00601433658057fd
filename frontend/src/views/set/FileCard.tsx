import type { Build, BuiltFile } from "../../api/client";
import { TrueSize, TrueSizeInPart } from "../../app/TrueSize";
import { bytes } from "../../app/units";
import { toneOf } from "../../app/verdict";
import styles from "./fileCard.module.css";
import shared from "./set.module.css";

const ROOM = 192;
const SMALL = 64;
const SVG_SIDE = 64;
/** Icons of so many px are also shown as squares of pixels, so many times as large. */
const ENLARGED = [16, 32];
const TIMES = 8;

/** One built file: its pictures at true size, its bytes, and why it is there. */
export function FileCard({ build, file }: { build: Build; file: BuiltFile }) {
  const address = `/api/builds/${build.id}/files/${file.name}`;
  return (
    <article className={shared.card}>
      <Pictures file={file} address={address} />
      <h2>
        <a href={address} target="_blank" rel="noreferrer">
          {file.name}
        </a>
      </h2>
      <p className="reading">
        {[kindOf(file), bytes(file.size), isCut(file) ? "middle part" : ""].filter(Boolean).join(" · ")}
      </p>
      <Verdicts build={build} file={file} />
      <p>{file.why}</p>
      <p className={styles.source}>
        {file.currency === "needed today" ? "" : `For ${file.currency}. `}Source: {file.source}
      </p>
    </article>
  );
}

/** What a person will see of each picture in the file. */
function Verdicts({ build, file }: { build: Build; file: BuiltFile }) {
  const told = build.verdicts.filter(({ files }) => files.includes(file.name));
  if (!told.length) return null;
  return (
    <p className="reading">
      {told.map(({ size, verdict, says }, number) => (
        <span key={size} data-tone={toneOf(verdict)}>
          {number > 0 && ", "}
          {told.length > 1 && `${size} px `}
          {says}
        </span>
      ))}
    </p>
  );
}

const isDrawing = (file: BuiltFile) => file.media_type === "image/svg+xml";
const largestOf = (file: BuiltFile) => Math.max(0, file.width ?? 0, ...file.sizes);
const isCut = (file: BuiltFile) => largestOf(file) / devicePixelRatio > ROOM;

function kindOf(file: BuiltFile): string {
  if (isDrawing(file)) return `vector, any size, shown at ${SVG_SIDE} px`;
  if (!file.sizes.length) return "text";
  const sizes = file.width ? `${file.width} × ${file.sizes[0]}` : file.sizes.join(", ");
  return `${sizes} px${file.opaque ? ", opaque" : ""}`;
}

function Pictures({ file, address }: { file: BuiltFile; address: string }) {
  if (isDrawing(file)) {
    return (
      <div className={`${styles.picture} clear-ground`} data-small="true">
        <img src={address} alt={file.name} width={SVG_SIDE} height={SVG_SIDE} />
      </div>
    );
  }
  if (!file.sizes.length) {
    return (
      <div className={styles.picture} data-small="true">
        <a href={address} target="_blank" rel="noreferrer">
          Open the text<span className="unseen"> of {file.name}</span>
        </a>
      </div>
    );
  }
  const [only, ...others] = file.sizes;
  const enlarged = only !== undefined && !others.length && ENLARGED.includes(only);
  return (
    <div
      className={`${styles.picture} ${file.opaque ? "" : "clear-ground"}`}
      data-small={largestOf(file) <= SMALL}
      data-enlarged={enlarged || undefined}
    >
      {file.sizes.map((size) => (
        <TrueSizeInPart
          key={size}
          src={file.sizes.length > 1 ? `${address}/frames/${size}` : address}
          size={size}
          {...(file.width ? { width: file.width } : {})}
          room={ROOM}
          alt={`${file.name}, ${size} px`}
        />
      ))}
      {enlarged && (
        <TrueSize src={address} size={only} times={TIMES} alt={`${file.name}, ${TIMES} × enlarged`} />
      )}
    </div>
  );
}
