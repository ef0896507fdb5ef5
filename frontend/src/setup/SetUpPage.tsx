import { useQuery } from "@tanstack/react-query";
import { Button, Form, Input } from "antd";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { tellAtField } from "../accounts/formTrouble";
import { PasswordField } from "../accounts/PasswordField";
import { client, data, isGone, type Schemas, setCsrf } from "../api/client";
import { keys } from "../api/keys";
import { Problem } from "../ui/Problem";
import { Failed, Loading, Nothing } from "../ui/states";
import styles from "../ui/text.module.css";
import { OfficeFields } from "./OfficeFields";
import "./setup.css";
import { Step } from "./Step";

type Office = Schemas["OfficeOut"];
type First = Schemas["FirstForm"];

/** The first page of an empty Waka: the office, and who administers it. Both are written at one stroke. */
export default function SetUpPage(): ReactNode {
  const key = window.location.hash.slice(1);
  const look = useQuery({
    queryKey: keys.setUp,
    retry: false,
    // what is being typed stays as it is
    refetchOnWindowFocus: false,
    queryFn: () => data(client.POST("/api/set-up/look", { body: { key } })),
  });
  if (look.isError && isGone(look.error)) return <NotGood />;
  if (look.isError)
    return (
      <main className="main">
        <Failed what="The set-up" error={look.error} onAgain={look.refetch} />
      </main>
    );
  if (!look.data)
    return (
      <main className="main">
        <Loading rows={6} />
      </main>
    );
  return <Forms secret={key} look={look.data} />;
}

function Forms(props: { secret: string; look: Schemas["SetUpLook"] }): ReactNode {
  const { secret, look } = props;
  const navigate = useNavigate();
  const [office, setOffice] = useState<Office>({ ...look.office, time_zone: zoneHere(look) });
  const [step, setStep] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [officeForm] = Form.useForm<Office>();
  const [firstForm] = Form.useForm<First>();
  const begin = (first: First) => {
    setBusy(true);
    setProblem(null);
    data(client.POST("/api/set-up", { body: { key: secret, office, first } }))
      .then(
        (me) => {
          setCsrf(me.csrf);
          void navigate("/begin", { replace: true });
        },
        (error: unknown) => setProblem(tellAtField(firstForm, error)),
      )
      .finally(() => setBusy(false));
  };
  if (step === 0)
    return (
      <Step at={0} title="Your office" told="These can be changed later, under Office.">
        <Form<Office>
          form={officeForm}
          layout="vertical"
          requiredMark={false}
          initialValues={office}
          onFinish={(typed) => {
            setOffice(typed);
            setStep(1);
          }}
        >
          <OfficeFields choices={look.choices} autoFocus />
          <div className="step-foot">
            <Button type="primary" htmlType="submit">
              Next: you
            </Button>
          </div>
        </Form>
      </Step>
    );
  return (
    <Step at={1} title="You" told={`You will administer ${office.office_name}. Others can, too, later.`}>
      <Form<First> form={firstForm} layout="vertical" requiredMark={false} onFinish={begin}>
        <Form.Item name="name" label="Your name" rules={[{ required: true, message: "Write your name." }]}>
          <Input maxLength={200} autoComplete="name" autoFocus />
        </Form.Item>
        <Form.Item
          name="login"
          label="The name that you log in with"
          rules={[{ required: true, message: "Write a name to log in with." }]}
        >
          <Input maxLength={200} autoComplete="username" />
        </Form.Item>
        <PasswordField
          name="password"
          label="Password"
          judge={(password) =>
            data(
              client.POST("/api/set-up/password", {
                body: {
                  key: secret,
                  password,
                  words: [firstForm.getFieldValue("name"), firstForm.getFieldValue("login"), office.office_name].filter(
                    Boolean,
                  ),
                },
              }),
            )
          }
        />
        {problem && <Problem>{problem}</Problem>}
        <div className="step-foot">
          <Button onClick={() => setStep(0)}>Back</Button>
          <Button type="primary" htmlType="submit" loading={busy}>
            Begin {office.office_name}
          </Button>
        </div>
      </Form>
    </Step>
  );
}

function zoneHere(look: Schemas["SetUpLook"]): string {
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return look.choices.time_zones.includes(here) ? here : look.office.time_zone;
}

function NotGood(): ReactNode {
  return (
    <main className="main">
      <Nothing title="This address is not good any more" action={<Button href="/">Go to the log-in</Button>}>
        Waka is set up already, or a newer address was made. Whoever runs Waka gets a new one with{" "}
        <span className="mono">./waka set-up</span>, as long as nobody administers it.
        <span className={styles.hidden}> Used, ended, replaced or never made: all are told alike.</span>
      </Nothing>
    </main>
  );
}
