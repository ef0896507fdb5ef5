import { useQuery } from "@tanstack/react-query";
import { DatePicker, Input, Segmented, Select } from "antd";
import dayjs from "dayjs";
import type { ReactNode, Ref } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { LEVELS, type Level } from "./wishes";

type Principal = Schemas["PrincipalOut"];
export type Typed = { whom: number | null; level: Level; until: string | null; word: string };
export const BLANK: Typed = { whom: null, level: "read", until: null, word: "" };

export function usePrincipals(): Principal[] {
  return (
    useQuery({ queryKey: keys.principals, queryFn: () => data(client.GET("/api/access/principals")) }).data
      ?.principals ?? []
  );
}

/** Two people of one name are told apart by the name that they log in with. */
export const told = (one: Principal) => (one.kind === "group" ? `${one.name} (group)` : `${one.name} (${one.login})`);

/** Whom, what, until when, with which word. */
export function GiveFields(props: {
  typed: Typed;
  single?: boolean;
  first?: Ref<{ focus: () => void }>;
  onChange: (typed: Typed) => void;
}): ReactNode {
  const { typed, onChange } = props;
  const principals = usePrincipals();
  return (
    <>
      <Select
        // biome-ignore lint/suspicious/noExplicitAny: the library's own type of what it gives is not exported
        ref={props.first as any}
        className="give-whom"
        aria-label="To whom"
        placeholder="To whom…"
        value={typed.whom}
        showSearch={{ optionFilterProp: "label" }}
        options={principals.map((one) => ({ value: one.id, label: told(one) }))}
        onChange={(whom: number) => onChange({ ...typed, whom })}
      />
      <Segmented
        aria-label="What they may do"
        options={(props.single ? LEVELS.slice(0, 2) : LEVELS).map((level) => ({ value: level, label: level }))}
        value={typed.level}
        onChange={(level) => onChange({ ...typed, level: level as Level })}
      />
      <Until until={typed.until} onChange={(until) => onChange({ ...typed, until })} />
      <Input
        className="give-word"
        aria-label="A word to go along"
        placeholder="A word to go along"
        maxLength={500}
        value={typed.word}
        onChange={(event) => onChange({ ...typed, word: event.target.value })}
      />
    </>
  );
}

/** For always, or up to a last day. */
export function Until(props: {
  until: string | null;
  label?: string;
  small?: boolean;
  onChange: (until: string | null) => void;
}): ReactNode {
  return (
    <DatePicker
      className="give-until"
      size={props.small ? "small" : "middle"}
      aria-label={props.label ?? "Until when"}
      format="[until] D MMM YYYY"
      placeholder="for always"
      value={props.until ? dayjs(props.until) : null}
      minDate={dayjs()}
      onChange={(day) => props.onChange(day ? day.format("YYYY-MM-DD") : null)}
    />
  );
}
