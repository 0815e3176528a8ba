import { useState } from "react";
import { Choice } from "../../parts/Value";
import { useJob } from "../../service/job";

/** The dish a page speaks of, with a choice where the job has several. */
export function useDish() {
  const job = useJob("dishes");
  const dishes = job.dishes ?? [];
  const [asked, ask] = useState<string | null>(null);
  const dish = dishes.find((d) => d.id === asked) ?? dishes[0] ?? null;
  const picker =
    dishes.length > 1 && dish ? (
      <Choice
        label="Dish"
        value={dish.id}
        options={dishes.map((d) => [d.id, d.name] as const)}
        onChange={ask}
      />
    ) : null;
  return { dish, picker };
}
