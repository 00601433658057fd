import { Input } from "antd";
import { useEffect, useEffectEvent, useState } from "react";

type Props = { value: string; placeholder: string; keep: (value: string) => void };

/** A field of text that is kept when it is left, on Enter, and when its view goes; Escape takes back what was typed. */
export function KeptInput({ value, placeholder, keep }: Props) {
  const [typed, setTyped] = useState<string>();
  const keepTyped = () => {
    if (typed !== undefined && typed.trim() !== value) keep(typed.trim());
  };
  const onEnd = useEffectEvent(keepTyped);
  useEffect(() => () => onEnd(), []);
  return (
    <Input
      size="small"
      value={typed ?? value}
      placeholder={placeholder}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => {
        keepTyped();
        setTyped(undefined);
      }}
      onPressEnter={keepTyped}
      onKeyDown={(event) => {
        if (event.key === "Escape") setTyped(undefined);
      }}
    />
  );
}
