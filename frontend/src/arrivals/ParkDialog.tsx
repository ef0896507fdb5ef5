import { Alert, Button, DatePicker, Form, Input } from "antd";
import dayjs, { type Dayjs } from "dayjs";
import { type ReactNode, useState } from "react";
import { Dialog } from "../ui/Dialog";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Props = { name: string; onPark: (until: string, note: string) => Promise<string | null>; onClose: () => void };
type Asked = { until: Dayjs; note: string };

const inDays = (days: number): Dayjs => dayjs().startOf("day").add(days, "day");
const OFFERS = [
  ["Tomorrow", 1],
  ["In a week", 7],
  ["In a month", 30],
] as const;

/** Put an arrival off: a day to come back, and a note of what it waits for. */
export default function ParkDialog(props: Props): ReactNode {
  const [problem, setProblem] = useState<string | null>(null);
  const [form] = Form.useForm<Asked>();
  return (
    <Dialog title="Put off until…" onClose={props.onClose}>
      <p className={`${styles.small} ${styles.quiet}`}>
        {props.name} waits under “Put off” until then; everybody sees the note.
      </p>
      <Form
        form={form}
        layout="vertical"
        requiredMark={false}
        initialValues={{ until: inDays(7), note: "" }}
        onFinish={({ until, note }) => void props.onPark(until.format("YYYY-MM-DD"), note).then(setProblem)}
      >
        <Form.Item name="until" label="Come back on" rules={[{ required: true, message: "Choose a day." }]}>
          <DatePicker
            autoFocus
            format={["D MMM YYYY", "YYYY-MM-DD", "D.M.YYYY"]}
            minDate={inDays(1)}
            allowClear={false}
            style={{ width: "100%" }}
          />
        </Form.Item>
        <p className="choices">
          {OFFERS.map(([label, days]) => (
            <LinkButton key={label} onClick={() => form.setFieldValue("until", inDays(days))}>
              {label}
            </LinkButton>
          ))}
        </p>
        <Form.Item name="note" label="What it waits for">
          <Input maxLength={300} />
        </Form.Item>
        {problem && <Alert type="error" title={problem} />}
        <footer>
          <Button onClick={props.onClose}>{SAY.cancel}</Button>
          <Button htmlType="submit" type="primary">
            {SAY.putOff}
          </Button>
        </footer>
      </Form>
    </Dialog>
  );
}
