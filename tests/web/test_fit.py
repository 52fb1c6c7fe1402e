"""Nothing overlaps and nothing is cut: the boxes of all text on every main screen, however wide and however large."""

from uuid import uuid4

from server.machines.models import Machine
from server.setup.overrides import rename_machine
from server.use.services import log_run
from tests.web.browser import NOW, BrowserTestCase, expect, timedelta

LONG = "The bookbinders' workshop tub canister on the ground floor"
"""As long as a name may well be."""
WIDTHS = (320, 390, 768, 1024, 1280, 1920)
LARGE = ("--blink-settings=defaultFontSize=32",)
"""Letters twice as large, as somebody sets them for all pages."""
CLASHES = """() => {
  const seen = (e) => {
    for (let at = e; at && at !== document.body; at = at.parentElement) {
      const style = getComputedStyle(at);
      if (style.visibility === 'hidden' || style.clipPath !== 'none' || style.position === 'fixed') return false;
      if (style.clip !== 'auto' || style.opacity === '0') return false;
    }
    return true;
  };
  const found = [], said = [];
  const walk = document.createTreeWalker(document.querySelector('main'), NodeFilter.SHOW_TEXT);
  while (walk.nextNode()) {
    const node = walk.currentNode, parent = node.parentElement, text = node.textContent.trim();
    if (!text || !parent.checkVisibility() || !seen(parent) || ['OPTION', 'TITLE'].includes(parent.tagName)) continue;
    const range = document.createRange();
    range.selectNodeContents(node);
    const boxes = parent instanceof SVGElement ? [parent.getBoundingClientRect()] : [...range.getClientRects()];
    for (const box of boxes) if (box.width > 1 && box.height > 1) found.push({ text, box, parent });
    for (let at = parent; at && at.tagName !== 'MAIN'; at = at.parentElement) {
      const style = getComputedStyle(at);
      if (!/hidden|clip/.test(style.overflowX) || at instanceof SVGElement) continue;
      const edge = at.getBoundingClientRect();
      if (boxes.some((box) => box.right > edge.right + 2 || box.left < edge.left - 2)) said.push(`cut: ${text}`);
    }
    if (boxes.some((box) => box.right > innerWidth + 1 || box.left < -1)) said.push(`out of the window: ${text}`);
  }
  const by = 3;
  for (let i = 0; i < found.length; i++) for (let j = i + 1; j < found.length; j++) {
    const [a, b] = [found[i].box, found[j].box];
    const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left);
    const high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
    if (wide > by && high > by + 2 && !found[i].parent.contains(found[j].parent.closest('svg') ? null : found[j].parent))
      said.push(`${found[i].text} / ${found[j].text}`);
  }
  return [...new Set(said)].slice(0, 8);
}"""


class EverythingFits(BrowserTestCase):
    """Long names, much use, both unit systems, letters twice as large, from a small phone to a wide screen."""

    opens = None

    def setUp(self):
        super().setUp()
        tub = Machine.objects.of(self.member.household_id).get(name="Workshop tub")
        rename_machine(member=self.member, machine_id=tub.pk, name=LONG)
        for days in range(1, 9):
            day = (NOW - timedelta(days=days)).date()
            log_run(member=self.member, run_id=uuid4(), machine_id=tub.pk, day=day, minutes=700)
        self.member.units = "us"
        self.member.save()
        wear = self.machine_id("Ground robot")
        self.screens = {
            "/": ("region", "House board"),
            "/machines": ("region", "House board"),
            f"/machines/{tub.pk}": ("region", "Records"),
            "/bench": ("heading", "Last sheets"),
            "/rack": ("button", "Why so long?"),
            "/faults": ("heading", "Something is wrong"),
            "/shelf": ("region", "On the way"),
            f"/wear/{wear}": ("table", "Parts in use"),
            "/floor": ("region", "May I pick this up?"),
            "/household": ("region", "Drying places"),
            "/more": ("heading", "More"),
            "/season": ("heading", "Between visits"),
            "/season/what-if": ("region", "As it is now"),
        }

    def clashes(self, page, where):
        found = page.evaluate(CLASHES)
        return [f"{where}: {one}" for one in found]

    def test_from_a_small_phone_to_a_wide_screen_and_with_letters_twice_as_large(self):
        clashing = []
        for address, (role, name) in self.screens.items():
            for width in WIDTHS:
                self.page.set_viewport_size({"width": width, "height": 800})
                if width == WIDTHS[0]:
                    self.page.goto(f"/#{address}")
                    expect(self.page.get_by_role(role, name=name).first).to_be_visible()
                    self.page.wait_for_load_state("networkidle")
                clashing += self.clashes(self.page, f"{address} at {width}")
        self.member.units = "metric"
        self.member.save()
        large = self.sign_in(self.open_page(flags=LARGE))
        for address, (role, name) in self.screens.items():
            large.goto(f"/#{address}")
            expect(large.get_by_role(role, name=name).first).to_be_visible()
            large.wait_for_load_state("networkidle")
            clashing += self.clashes(large, f"{address} in large letters")
        self.assertEqual(clashing, [])
        large.locator("main h1").evaluate("title => (title.style.marginBottom = '-2em')")
        self.assertTrue(self.clashes(large, "a title laid over what follows"), "what clashes is found")
