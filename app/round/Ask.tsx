/** One line of words, asked for in place. */
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
    <form
      className="card row"
      onSubmit={(e) => {
        e.preventDefault();
        const words = String(new FormData(e.currentTarget).get("words") ?? "").trim();
        if (words.length >= 2) onGive(words);
      }}
    >
      <label className="grow">
        <span className="sr">{label}</span>
        <input
          name="words"
          className="line-input"
          required
          minLength={2}
          maxLength={200}
          placeholder={placeholder}
          defaultValue={initial}
        />
      </label>
      <button type="submit" className="button">
        {button}
      </button>
    </form>
  );
}
