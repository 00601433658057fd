import { Button } from "antd";

import type { Build, BuiltFile, FileDifference } from "../../api/client";
import { useComparison } from "../../api/builds";
import { Loading } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { TrueSizeInPart } from "../../app/TrueSize";
import { bytes } from "../../app/units";
import styles from "./comparison.module.css";

const ROOM = 96;
const WORDS = { same: "same", changed: "changed", added: "new", gone: "gone" };

type Props = { build: Build; earlier: Build; close: () => void };

/** What differs between two builds, file by file, with the pictures side by side. */
export function Comparison({ build, earlier, close }: Props) {
  const compared = useComparison(build.id, earlier.id);
  if (compared.isPending) return <Loading what="Comparing" />;
  if (compared.error) return <ProblemNotice problem={compared.error} />;
  const other = compared.data.filter(({ change }) => change !== "same").length;
  return (
    <section className={styles.comparison} aria-label={`Build ${earlier.number} and build ${build.number}`}>
      <div className={styles.comparisonHead} ref={(head) => head?.scrollIntoView({ block: "center" })}>
        <h1>
          Build {earlier.number} and build {build.number}
        </h1>
        <p>
          {other
            ? `${other} of ${compared.data.length} files differ.`
            : "All files are the same, byte for byte."}
        </p>
        <Button onClick={close}>Back to the files</Button>
      </div>
      <p>
        White means equal; the darker a pixel, the more its two colours differ. Small differences are shown
        stronger than they are.
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">File</th>
            <th scope="col">Build {earlier.number}</th>
            <th scope="col">Build {build.number}</th>
            <th scope="col">Difference</th>
          </tr>
        </thead>
        <tbody>
          {compared.data.map((difference) => (
            <Row key={difference.name} difference={difference} build={build} earlier={earlier} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

type RowProps = { difference: FileDifference; build: Build; earlier: Build };

function Row({ difference, build, earlier }: RowProps) {
  const { name, change, bytes_before, bytes_after, pictures } = difference;
  const apart = pictures
    .map(({ mean, largest, width }) =>
      mean === null
        ? `${width} px: other size`
        : `${width} px: mean ${mean.toFixed(1)}, most ${largest} of 255`,
    )
    .join("; ");
  const last = pictures.length - 1;
  return (
    <tr data-change={change}>
      <th scope="row">
        {name}
        <span className="reading">{WORDS[change]}</span>
      </th>
      <Cell build={earlier} name={name} size={bytes_before} changed={change === "changed"} />
      <Cell build={build} name={name} size={bytes_after} changed={change === "changed"} />
      <td>
        {change === "changed" && last >= 0 && pictures[last]?.mean !== null && (
          <TrueSizeInPart
            src={`/api/builds/${build.id}/compared-with/${earlier.id}/${name}/${last}`}
            size={pictures[last]?.height ?? 0}
            width={pictures[last]?.width ?? 0}
            room={ROOM}
            alt={`Difference of ${name}, white where equal`}
          />
        )}
        {bytes_before !== null && bytes_after !== null && change === "changed" && (
          <span className="reading">{signed(bytes_after - bytes_before)} B</span>
        )}
        <span className="reading">{apart}</span>
      </td>
    </tr>
  );
}

const signed = (count: number) => (count > 0 ? `+${count}` : `${count}`.replace("-", "−"));

type CellProps = { build: Build; name: string; size: number | null; changed: boolean };

function Cell({ build, name, size, changed }: CellProps) {
  const file = build.files.find((one) => one.name === name);
  if (!file || size === null) return <td className="reading">not there</td>;
  return (
    <td>
      {changed && <Picture build={build} file={file} />}
      <span className="reading">
        {bytes(size)}
        {changed && (file.sizes.at(-1) ?? 0) / devicePixelRatio > ROOM && ", middle"}
      </span>
    </td>
  );
}

function Picture({ build, file }: { build: Build; file: BuiltFile }) {
  const address = `/api/builds/${build.id}/files/${file.name}`;
  const alt = `${file.name} of build ${build.number}`;
  const size = file.sizes.at(-1);
  if (file.media_type === "image/svg+xml") return <img src={address} alt={alt} width={ROOM} height={ROOM} />;
  if (!size) return null;
  const src = file.sizes.length > 1 ? `${address}/frames/${size}` : address;
  return (
    <TrueSizeInPart
      src={src}
      size={size}
      {...(file.width ? { width: file.width } : {})}
      room={ROOM}
      alt={alt}
    />
  );
}
