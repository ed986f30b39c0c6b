// Before the page's own scripts: whether the page has all that it asked for, so that a test can wait for that and not for a time.
(() => {
  const fetch = window.fetch.bind(window);
  let asked = 0;
  let quiet = 0; // frames since then
  window.answeredPaths = [];
  window.fetch = async (...what) => {
    asked++;
    try {
      const answer = await fetch(...what);
      window.answeredPaths.push(new URL(answer.url).pathname);
      await answer.clone().arrayBuffer();
      return answer;
    } finally {
      asked--;
    }
  };
  const moves = (one) => one.playState === "running" && one.effect?.getComputedTiming().endTime !== Infinity;
  const seen = (one) => {
    const { top, bottom } = one.getBoundingClientRect();
    return bottom > 0 && top < window.innerHeight;
  };
  const comes = (one) => !one.complete && (one.loading !== "lazy" || seen(one));
  window.askedForNothing = () => {
    const busy = asked || [...document.images].some(comes) || document.getAnimations().some(moves);
    quiet = busy ? 0 : quiet + 1;
    return quiet > 2;
  };
})();
