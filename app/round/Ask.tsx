/** One line of words, asked for in place. */
import { Button, Card, Input } from "antd";

const FEWEST = 2;
const MOST = 200;

export function Ask({
  label,
  placeholder,
  button,
  initial = "",
  onGive,
}: {
  label: string;
  placeholder: string;
  button: string;
  initial?: string;
  onGive: (words: string) => void;
}) {
  return (
    <Card>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault();
          const words = String(new FormData(e.currentTarget).get("words") ?? "").trim();
          if (words.length >= FEWEST) onGive(words);
        }}
      >
        <div className="grow">
          <Input
            name="words"
            aria-label={label}
            required
            minLength={FEWEST}
            maxLength={MOST}
            placeholder={placeholder}
            defaultValue={initial}
            autoComplete="off"
          />
        </div>
        <Button htmlType="submit">{button}</Button>
      </form>
    </Card>
  );
}
