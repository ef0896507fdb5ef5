import { useQuery } from "@tanstack/react-query";
import { Button, Form } from "antd";
import type { ReactNode } from "react";
import { useAct } from "../accounts/useAct";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { OfficeFields } from "../setup/OfficeFields";
import { Failed, Loading } from "../ui/states";
import { SAY } from "../ui/wording";

/** What the office is called, where it is, its language and money. */
export function SettingsPanel(): ReactNode {
  const { busy, act } = useAct();
  const office = useQuery({
    queryKey: keys.office,
    refetchOnWindowFocus: false,
    queryFn: () => data(client.GET("/api/office")),
  });
  if (office.isError && !office.data)
    return <Failed what="The settings" error={office.error} onAgain={office.refetch} />;
  if (!office.data) return <Loading rows={6} />;
  return (
    <Form<Schemas["OfficeOut"]>
      className="one-column"
      layout="vertical"
      requiredMark={false}
      initialValues={office.data.office}
      onFinish={(typed) => void act(() => data(client.PATCH("/api/office", { body: typed })), "Saved the settings.")}
    >
      <OfficeFields choices={office.data.choices} />
      <Button type="primary" htmlType="submit" loading={busy}>
        {SAY.save}
      </Button>
    </Form>
  );
}
