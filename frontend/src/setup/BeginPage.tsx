import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Space } from "antd";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { client, data } from "../api/client";
import { askAllAgain, keys } from "../api/keys";
import { AddPerson } from "../office/AddPerson";
import { LinkSlips, type Slip } from "../office/LinkSlips";
import { Missing } from "../office/Missing";
import { NewAreas } from "../office/NewAreas";
import { useSession } from "../ui/session";
import { Failed, Loading, Nothing } from "../ui/states";
import "./setup.css";
import { Step } from "./Step";

/** The rest of the first hour, for administrators: areas, people, what is still missing. It goes on where it was left. */
export default function BeginPage(): ReactNode {
  const { me } = useSession();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [step, setStep] = useState<number | null>(null);
  const [slips, setSlips] = useState<Slip[]>([]);
  const areas = useQuery({
    queryKey: keys.officeAreas,
    enabled: me.administrator,
    queryFn: () => data(client.GET("/api/areas")),
  });
  if (!me.administrator)
    return (
      <main className="main">
        <Nothing title="Administrators set Waka up">Ask one of them.</Nothing>
      </main>
    );
  if (areas.isError) return <Failed what="The set-up" error={areas.error} onAgain={areas.refetch} />;
  if (!areas.data) return <Loading rows={8} />;
  const at = step ?? (areas.data.areas.length ? 3 : 2);
  if (at === 2)
    return (
      <Step
        at={2}
        wide
        title="Areas"
        told="An area is a part of the drive with a plan of its own: what papers of each kind are called, and where they go."
      >
        <NewAreas
          onMade={() => {
            setStep(3);
            void askAllAgain(queries);
          }}
          foot={<Button onClick={() => setStep(3)}>Later</Button>}
        />
      </Step>
    );
  if (at === 3)
    return (
      <Step
        at={3}
        title="People"
        told="Each gets a link to choose a password by: copy it, or print it as a slip. No mail is sent."
      >
        {slips.length > 0 ? (
          <LinkSlips slips={slips} onClose={() => setSlips([])} />
        ) : (
          <AddPerson
            onAdded={(added) => {
              setSlips(added);
              void askAllAgain(queries);
            }}
          />
        )}
        <div className="step-foot">
          <Button type={slips.length ? "primary" : "default"} onClick={() => setStep(4)}>
            {slips.length ? "Next" : "Later"}
          </Button>
        </div>
      </Step>
    );
  return (
    <Step at={4} title="Ready" told="Waka works now. For everyday work this is still missing:">
      <Missing />
      <div className="step-foot">
        <Space>
          <Button onClick={() => setStep(3)}>Add people</Button>
          <Button type="primary" autoFocus onClick={() => void navigate("/arrivals")}>
            Bring in the first paper
          </Button>
        </Space>
      </div>
    </Step>
  );
}
