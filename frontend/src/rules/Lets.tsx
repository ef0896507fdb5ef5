import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { client, data, type Schemas } from "../api/client";
import { askAgain, keys } from "../api/keys";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import { PickOne } from "../ui/PickOne";
import styles from "../ui/text.module.css";

/** Whose rules may file in this area, and where its own may. */
export function Lets(props: { kept: Schemas["RulebookOut"] }): ReactNode {
  const { kept } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const { mutate, isPending } = useMutation({
    mutationFn: (asked: { other: number; file: boolean }) =>
      data(
        client.PUT("/api/rulebooks/{folder}/lets/{other}", {
          params: { path: { folder: kept.area, other: asked.other } },
          body: { file: asked.file },
        }),
      ),
    onSuccess: (now) => queries.setQueryData(keys.rulebook(kept.area), now),
    onError: (error) => tell({ text: words(error), bad: true }),
    onSettled: () => askAgain(queries, "plans", "arrivals"),
  });
  const free = kept.others.filter((one) => !kept.lets.some((let_) => let_.area === one.id));
  return (
    <p className={`lets ${styles.small}`}>
      {kept.let_by.length > 0 && <>These rules may also file in {kept.let_by.map((one) => one.name).join(", ")}. </>}
      {kept.lets.map((one) => (
        <span key={one.area}>
          The rules of {one.name} may file here.{" "}
          {kept.keeps && (
            <LinkButton disabled={isPending} onClick={() => mutate({ other: one.area, file: false })}>
              Take it back
            </LinkButton>
          )}{" "}
        </span>
      ))}
      {kept.keeps && free.length > 0 && (
        <PickOne
          size="small"
          aria-label={`Let the rules of another area file in ${kept.name}`}
          placeholder="Let the rules of another area file here…"
          of={free.map((one) => [one.id, one.name] as const)}
          value={null}
          disabled={isPending}
          onChange={(other) => mutate({ other, file: true })}
        />
      )}
    </p>
  );
}
