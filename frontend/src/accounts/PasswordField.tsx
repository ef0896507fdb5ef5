import { useQuery } from "@tanstack/react-query";
import { Form, Input, Progress } from "antd";
import { type ReactNode, useEffect, useState } from "react";
import type { Schemas } from "../api/client";
import { keys } from "../api/keys";
import styles from "../ui/text.module.css";

type Strength = Schemas["StrengthOut"];

const PAUSE_MS = 250;
const WORDS = ["guessed at once", "weak", "fair", "good", "strong"] as const;
const WHY: Record<string, string> = {
  short: "At least 10 characters. Several words are easy to remember.",
  common: "Among the first that anybody tries. Choose another.",
};

/** A new password: typed once, shown where wished, with how hard it is to guess. Any marks will do. */
export function PasswordField(props: {
  name: string;
  label: string;
  judge: (password: string) => Promise<Strength>;
  autoFocus?: boolean;
}): ReactNode {
  const typed: string = Form.useWatch(props.name) ?? "";
  const [settled, setSettled] = useState("");
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(typed), PAUSE_MS);
    return () => window.clearTimeout(timer);
  }, [typed]);
  const judged = useQuery({
    queryKey: keys.strength(settled),
    enabled: settled !== "",
    gcTime: 0,
    queryFn: () => props.judge(settled),
    placeholderData: (before) => before,
  });
  const told = typed && judged.data ? judged.data : null;
  return (
    <>
      <Form.Item name={props.name} label={props.label} rules={[{ required: true, message: "Write a password." }]}>
        <Input.Password autoComplete="new-password" maxLength={1000} autoFocus={props.autoFocus} />
      </Form.Item>
      <p className={`password-meter ${styles.small}`} aria-live="polite">
        <Progress
          aria-label="How hard it is to guess"
          steps={4}
          size={[28, 6]}
          percent={told ? told.score * 25 : 0}
          showInfo={false}
        />
        <span className={told?.problem ? "signal" : styles.quiet}>
          {told ? (told.problem ? WHY[told.problem] : `Hard to guess: ${WORDS[told.score]}.`) : WHY.short}
        </span>
      </p>
    </>
  );
}
