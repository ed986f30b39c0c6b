// A shot's break-down beside its bench: recipes, plates, costs, cautions; read again when anything of the
// shot has changed.
import { answered, client, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { WayBack } from "../../lib/edit/back.svelte";

export type Plan = Schemas["PlanOut"];

export class PlanState {
  plan = $state.raw<Plan | null>(null);
  readonly asking = new Asking();
  readonly back = new WayBack(
    this.asking,
    () => this.plan?.production_id ?? null,
    () => this.#fresh(),
  );
  #turn = 0;

  constructor(
    readonly shot: number,
    readonly changed: () => void,
  ) {}

  get writes() {
    return this.plan?.role === "supervisor";
  }
  get ticks() {
    return this.plan?.role === "supervisor" || this.plan?.role === "crew";
  }

  async read() {
    const turn = ++this.#turn;
    const found = await this.asking.read(() =>
      answered(client.GET("/api/shots/{shot_id}/plan", { params: { path: { shot_id: this.shot } } })),
    );
    if (found && turn === this.#turn) this.plan = found;
  }

  /** A write in its turn, and the plan as it is then. Says whether it was done. */
  async #do<T>(
    label: string | ((done: T) => string),
    write: (key: string, plan: Plan) => Promise<T>,
  ): Promise<boolean> {
    const done = await this.back.do(label, async (key) => {
      const answer = await write(key, this.plan!);
      await this.#fresh();
      return answer;
    });
    return done !== undefined;
  }
  async #fresh() {
    const turn = ++this.#turn;
    const found = await answered(client.GET("/api/shots/{shot_id}/plan", { params: this.#path() }));
    if (turn === this.#turn) this.plan = found;
    this.changed();
  }

  #path = () => ({ path: { shot_id: this.shot } });
  #keyed = (key: string) => ({ "Idempotency-Key": key });

  choose(body: Partial<Schemas["ChooseIn"]>) {
    const title = () => this.plan?.recipes.at(-1)?.title ?? "a recipe";
    return this.#do(
      () => `Choose ${title()}`,
      (key, plan) =>
        answered(
          client.POST("/api/shots/{shot_id}/recipes", {
            params: this.#path(),
            headers: this.#keyed(key),
            body: { key: "", answers: {}, fill: true, ...body, version: plan.version } as Schemas["ChooseIn"],
          }),
        ),
    );
  }
  removeRecipe(id: number) {
    const title = this.plan?.recipes.find((one) => one.id === id)?.title ?? "the recipe";
    return this.#do(`Take back ${title}`, (key, plan) =>
      answered(
        client.PATCH("/api/shots/{shot_id}/recipes/{recipe_id}", {
          params: { path: { shot_id: this.shot, recipe_id: id } },
          headers: this.#keyed(key),
          body: { version: plan.recipes.find((one) => one.id === id)?.version ?? 0, removed: true },
        }),
      ),
    );
  }
  saveRecipe(title: string) {
    return this.#do(`Keep as a recipe: ${title}`, (key, plan) =>
      answered(
        client.POST("/api/shots/{shot_id}/save-recipe", {
          params: this.#path(),
          headers: this.#keyed(key),
          body: { version: plan.version, title },
        }),
      ),
    );
  }
  cost(changes: Schemas["CostIn"]["changes"]) {
    return this.#do("What was said of the costs", (key, plan) =>
      answered(
        client.PATCH("/api/shots/{shot_id}/costs", {
          params: this.#path(),
          headers: this.#keyed(key),
          body: { version: plan.costing.version, changes },
        }),
      ),
    );
  }
  sign(caution: string, note: string, withdraw = false) {
    const title = this.plan?.hazards.find((one) => one.key === caution)?.title ?? "a caution";
    return this.#do(`${withdraw ? "Open" : "Sign"} ${title}`, (key, plan) =>
      answered(
        client.POST("/api/shots/{shot_id}/sign", {
          params: this.#path(),
          headers: this.#keyed(key),
          body: { version: plan.version, caution, note, withdraw },
        }),
      ),
    );
  }
  cautions(keys: string[]) {
    return this.#do("Cautions by hand", (key, plan) =>
      answered(
        client.PUT("/api/shots/{shot_id}/cautions", {
          params: this.#path(),
          headers: this.#keyed(key),
          body: { version: plan.version, cautions: keys },
        }),
      ),
    );
  }
  who(keys: string[]) {
    return this.#do("Who is in the shot", (key, plan) =>
      answered(
        client.PUT("/api/shots/{shot_id}/who", {
          params: this.#path(),
          headers: this.#keyed(key),
          body: { version: plan.version, who: keys },
        }),
      ),
    );
  }
  tick(layer: number, text: string, done: boolean) {
    return this.#do(text, (key, plan) =>
      answered(
        client.POST("/api/layers/{layer_id}/ticks", {
          params: { path: { layer_id: layer } },
          headers: this.#keyed(key),
          body: { version: plan.plates.find((one) => one.layer_id === layer)?.version ?? 0, text, done },
        }),
      ),
    );
  }
  ready(ready: boolean) {
    return this.#do(ready ? "Ready" : "Not ready", (key, plan) =>
      answered(
        client.PATCH("/api/shots/{shot_id}/line", {
          params: this.#path(),
          headers: this.#keyed(key),
          body: { version: plan.version, changes: { ready } },
        }),
      ),
    );
  }
  board(file: File) {
    return this.#do(`Board: ${file.name}`, (key, plan) => {
      const form = new FormData();
      form.append("version", String(plan.version));
      form.append("file", file);
      return answered(
        client.POST("/api/shots/{shot_id}/board", {
          params: this.#path(),
          headers: this.#keyed(key),
          body: form as never,
          bodySerializer: (body) => body as never,
        }),
      );
    });
  }
}
