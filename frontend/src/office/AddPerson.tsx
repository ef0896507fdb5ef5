import { useQuery } from "@tanstack/react-query";
import { Button, DatePicker, Form, Input, Select } from "antd";
import type { Dayjs } from "dayjs";
import { type ReactNode, useState } from "react";
import { tellAtField } from "../accounts/formTrouble";
import { LetBe, useProven } from "../accounts/proof";
import { client, data } from "../api/client";
import { keys } from "../api/keys";
import { Problem } from "../ui/Problem";
import type { Slip } from "./LinkSlips";

type Typed = { name: string; login: string; groups?: number[]; ends_on?: Dayjs };

/** One person to be added; their link is shown at once. */
export function AddPerson(props: { onAdded: (slips: Slip[]) => void }): ReactNode {
  const proven = useProven();
  const [form] = Form.useForm<Typed>();
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const groups = useQuery({ queryKey: keys.groups, queryFn: () => data(client.GET("/api/groups")) }).data?.groups ?? [];
  const add = (typed: Typed) => {
    setBusy(true);
    setProblem(null);
    const one = {
      name: typed.name,
      login: typed.login,
      groups: typed.groups ?? [],
      ends_on: typed.ends_on?.format("YYYY-MM-DD") ?? null,
    };
    proven(() => data(client.POST("/api/people", { body: { people: [one] } })))
      .then(
        (added) => {
          form.resetFields();
          props.onAdded(added.people);
        },
        (error: unknown) => {
          if (!(error instanceof LetBe)) setProblem(tellAtField(form, error));
        },
      )
      .finally(() => setBusy(false));
  };
  return (
    <Form<Typed> form={form} className="one-column" layout="vertical" requiredMark={false} onFinish={add}>
      <Form.Item name="name" label="Name" rules={[{ required: true, message: "Write their name." }]}>
        <Input maxLength={200} autoFocus autoComplete="off" />
      </Form.Item>
      <Form.Item
        name="login"
        label="The name that they log in with"
        rules={[{ required: true, message: "Write a name to log in with." }]}
      >
        <Input maxLength={200} autoComplete="off" />
      </Form.Item>
      {groups.length > 0 && (
        <Form.Item name="groups" label="Groups">
          <Select
            mode="multiple"
            showSearch={{ optionFilterProp: "label" }}
            options={groups.map((one) => ({ value: one.id, label: one.name }))}
          />
        </Form.Item>
      )}
      <Form.Item name="ends_on" label="Last day, where it is known">
        <DatePicker format="D MMM YYYY" placeholder="no last day" />
      </Form.Item>
      {problem && <Problem>{problem}</Problem>}
      <Button type="primary" htmlType="submit" loading={busy}>
        Add and make a link
      </Button>
    </Form>
  );
}
