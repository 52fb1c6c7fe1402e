"""Told as somebody would: what is wrong with a machine, what they see when asked, and what it was.

`python -m tests.stories` prints how each goes; docs/why/faults.md has that, and a test holds the two together.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from care.book import load_book
from care.faults.answering import answered
from care.faults.background import NOTHING_KNOWN, Background, PartBackground
from care.faults.case import Answered, Case, Cured, Noticed, Retested
from care.faults.hands import Hands
from care.faults.likelihood import States, proves
from care.faults.subject import Probe, Subject, subject
from care.faults.verdict import Stand, assess
from care.vocabulary import Action, Found

WITHOUT_A_GAUGE = Hands(lacks=frozenset({"gauge", "meter"}))


@dataclass(frozen=True)
class Story:
    """One machine: what is told, what is seen (probe -> answer, else all is well there), and what it was.

    What is seen may be told wrong first: then it is a tuple, one answer after the other. `first` is what they tell
    unasked (probe, answer). `ends` is how it ends, `was` the cause and `also` a second one: gone when both are put
    right. What is looked at `early` comes within the first three steps, what `never` at all (keys of probes).
    """

    title: str
    kind: str
    symptoms: tuple[str, ...]
    sees: Mapping[str, str | tuple[str, ...]]
    was: str
    dock: str | None = None
    first: tuple[tuple[str, str], ...] = ()
    background: Background = field(default_factory=lambda: NOTHING_KNOWN)
    ends: Stand = Stand.CURED
    early: tuple[str, ...] = ()
    never: tuple[str, ...] = ()
    also: str = ""
    features: frozenset[str] = frozenset()

    def subject(self) -> Subject:
        """The machine, with its dock."""
        book = load_book()
        dock = book.archetypes[self.dock] if self.dock else None
        return subject(book, book.archetypes[self.kind], dock, self.features)

    def says(self, probe: Probe, case: Case) -> str:
        """What they answer now: what was put right is seen no more."""
        told = self.sees.get(probe.key, probe.check.outcomes[0].key)
        each = (told,) if isinstance(told, str) else told
        made = sum(isinstance(e, Answered) and e.probe == probe.key for e in case.events)
        says = each[min(made, len(each) - 1)]
        mended = [s for s in case.subject.suspects if proves(s, probe) == says and case.times_cured(s.key)]
        return probe.check.outcomes[0].key if mended else says

    def gone(self, case: Case) -> bool:
        """Whether all that was wrong is put right."""
        return all(case.times_cured(key) for key in (self.was, self.also) if key)

    def told(self) -> Iterator[str]:
        """Each step in a line, as Yperon leads it."""
        yield from _steps(self)


WASHED = PartBackground(clocks={Action.WASH: 0.03}, serviced=1.0, cleaned=frozenset({Action.WASH}))
DAMP = PartBackground(serviced=1.0, cleaned=frozenset({Action.WASH}), refitted_early=True, washes=3)

STORIES = (
    Story(
        "It pulses only with the long tube on",
        "cordless-two-filter",
        ("pulsing",),
        {"pitch": "higher", "began": "at-once", "light:neck": "dark", "vents": "weak"},
        "wad:neck",
        first=(("front-off", "good"),),
    ),
    Story(
        "I washed the filter yesterday and now it is worse",
        "cordless-two-filter",
        ("pulsing", "smell"),
        {"after-service": "yes", "filter-look:filter": "damp", "pitch": "higher", "began": "at-once"},
        "damp:filter",
        background=Background({("", "filter"): DAMP}, serviced={"": 1.0}),
    ),
    Story(
        "The robot leaves dirt in its bin after docking, and the bag is not full",
        "robot-mop",
        ("not-emptied",),
        {"dock-run": "thin", "dock:duct-ends:duct": "dark", "began": "slowly"},
        "dock:duct:duct",
        dock="dock-wash",
    ),
    Story(
        "The upright's brush stands still and it smells of rubber",
        "upright-belt",
        ("brush-still", "burnt"),
        {"began": "at-once", "belt-on:belt": "off"},
        "belt:belt",
    ),
    Story(
        "The cylinder is weak, but without its hose it draws like a horse",
        "canister-bagged",
        ("weak",),
        {"pitch": "higher", "began": "at-once", "drop:hose": "stuck", "back-suck:hose": "stuck"},
        "wad:hose",
        first=(("front-off", "good"),),
    ),
    Story(
        "I cleaned the foam and it is as weak as before",
        "upright-twin-roller",
        ("weak",),
        {"pitch": "higher", "began": "slowly", "front-off": "poor", "screen-torch:mesh": "caked"},
        "caked:mesh",
        background=Background({("", "foam"): WASHED}, serviced={"": 1.0}),
    ),
    Story(
        "Filter blocked or wet, it says, again and again, and the filter is clean and dry",
        "robot-mop",
        ("msg-filter",),
        {"post-look:exhaust-foams": "loaded", "began": "slowly"},
        "post-loaded:exhaust-foams",
        dock="dock-wash",
        first=(("filter-look:filter", "clean"),),
    ),
    Story(
        "It stopped in the middle of the stairs and started again after lunch",
        "canister-bagless",
        ("cuts-out",),
        {"pitch": "higher", "began": "slowly", "filter-look:lid-filter": "dirt", "rest:motor": "starts"},
        "loaded:lid-filter",
    ),
    Story(
        "The light is on, it ticks, nothing turns",
        "cordless-two-filter",
        ("clicks",),
        {"nudge:motor": "stuck", "began": "at-once"},
        "rotor:motor",
    ),
    Story(
        "It pulses though I have looked through everything, and a charge is soon gone",
        "cordless-one-filter",
        ("pulsing", "short-run"),
        {"pitch": "lower", "charge-minutes:battery": "short", "began": "slowly"},
        "aged:battery",
    ),
    Story(
        "New filter, and it pulses all the same",
        "cordless-one-filter",
        ("pulsing",),
        {"pitch": "as-ever", "palm": "weak", "front-off": "poor", "seal-look:bin-seal": "dirty"},
        "seal:bin-seal",
        background=Background(
            {("", "filter"): PartBackground({Action.WASH: 0.02}, life=0.02, found=Found.CLEAN)},
        ),
    ),
    Story(
        "A burnt smell, and I find no hair anywhere",
        "canister-bagless",
        ("burnt",),
        {"motor-signs:motor": "yes", "began": "at-once"},
        "motor:motor",
        ends=Stand.HAND_OVER,
    ),
    Story(
        "The robot sets off, turns once and says its front wheel is stuck",
        "robot-belt",
        ("msg-wheel",),
        {"caster-spin:caster": "hair"},
        "caster-hair:caster",
        dock="dock-charge",
    ),
    Story(
        "The mops smell though I washed them",
        "robot-mop",
        ("wet-smell",),
        {"dock:tray-look:tray": "slime"},
        "dock:tray-growth:tray",
        dock="dock-wash",
        first=(("pads-sniff:mops", "fresh"),),
    ),
)


HARD = (
    Story(
        "The pack no longer slides out",
        "cordless-one-filter",
        ("pack-bad",),
        {},
        "",
        ends=Stand.HAND_OVER,
        never=("charge-minutes:battery", "pack-alone:battery"),
    ),
    Story(
        "A charge is gone in five minutes, and one side of the pack is round",
        "cordless-two-filter",
        ("short-run",),
        {"pack-look:battery": "damaged"},
        "pack-damaged:battery",
        ends=Stand.HAND_OVER,
        early=("pack-look:battery",),
        never=("charge-minutes:battery", "pack-alone:battery"),
    ),
    Story(
        "No light and no sound, and the cord is crushed under the door",
        "upright-belt",
        ("dead",),
        {"cord-look:cord": "damaged"},
        "cord:cord",
        ends=Stand.HAND_OVER,
        early=("cord-look:cord",),
        never=("lamp:cord",),
    ),
    Story(
        "It does not start; I have not tried another socket",
        "canister-bagged",
        ("dead",),
        {"lamp:cord": "dark"},
        "socket:cord",
        early=("cord-look:cord", "lamp:cord"),
    ),
    Story(
        "I vacuumed the stove, now it is weak",
        "canister-layered",
        ("weak",),
        {},
        "",
        first=(("embers", "yes"),),
        ends=Stand.HAND_OVER,
        never=("bag-look:liner", "front-off"),
    ),
    Story(
        "It took up the dog's bowl, and now it is weak",
        "canister-bagged",
        ("weak",),
        {"filter-look:filter": "damp", "began": "at-once"},
        "damp:filter",
        first=(("took-wet", "yes"),),
        never=("front-off", "palm", "pitch", "vents"),
    ),
    Story(
        "It stops after ten minutes, every time, and runs again after tea",
        "canister-bagged",
        ("cuts-out",),
        {"rest:motor": "starts", "bag-look:bag": "full"},
        "bag-full:bag",
        early=("cord-look:cord",),
    ),
    Story(
        "Only this week: it goes home after two rooms",
        "robot-two-roller",
        ("covers-less",),
        {"caster-spin:caster": "hair"},
        "caster-hair:caster",
        dock="dock-bag",
        never=("charge-minutes-robot:body",),
    ),
    Story(
        "The bin is empty, says my robot's light, and it says full again after a room",
        "robot-two-roller",
        ("bin-again",),
        {"bin-soon:bin": "full"},
        "fills-fast:bin",
        dock="dock-charge",
    ),
    Story(
        "It roars like mad when it comes home",
        "robot-two-roller",
        ("dock-roars",),
        {"roar-when:body": "docking"},
        "dock-burst:body",
        dock="dock-bag",
        ends=Stand.MEANT,
    ),
    Story(
        "It stands still on the long-haired rug only",
        "upright-belt",
        ("labours",),
        {"rug-kind:body": "yes"},
        "rug:body",
        first=(("one-floor", "yes"),),
        ends=Stand.MEANT,
    ),
    Story(
        "Hair is round the roller again three days after I cut it off",
        "robot-two-roller",
        ("winds-again",),
        {"spin:bristle-roller": "worn"},
        "roller-worn:bristle-roller",
        dock="dock-bag",
    ),
    Story(
        "Dust flies out behind since I changed the bag",
        "canister-bagged",
        ("dust-back",),
        {"bag-look:bag": "none", "after-service": "yes"},
        "no-bag:bag",
        first=(("after-service", "yes"),),
        early=("bag-look:bag",),
        never=("front-off", "vents"),
    ),
    Story(
        "Its screen points at the tube",
        "cordless-two-filter",
        ("msg-airway",),
        {"light:wand": "dark"},
        "wad:wand",
        first=(("screen-place:wand", "yes"),),
        early=("light:wand",),
    ),
    Story(
        "A fuse went when I switched it on",
        "upright-belt",
        ("dead",),
        {},
        "",
        first=(("breaker", "yes"),),
        ends=Stand.HAND_OVER,
        never=("lamp:cord",),
    ),
    Story(
        "The tub blows dust since I emptied it",
        "canister-layered",
        ("dust-back",),
        {"cloth-look:cloth": "out"},
        "cloth-out:cloth",
        first=(("after-service", "yes"),),
    ),
    Story(
        "I emptied the bin, it was over its line, and it is still weak",
        "upright-belt",
        ("weak",),
        {"level:bin": "past", "drop:hose": "stuck", "back-suck:hose": "stuck", "pitch": "higher", "front-off": "good"},
        "wad:hose",
        also="bin-full:bin",
        early=("front-off",),
    ),
    Story(
        "It pulses; the filter is grey, and it pulses with the clean one, too",
        "cordless-one-filter",
        ("pulsing",),
        {"filter-look:filter": "dirt", "seal-look:bin-seal": "dirty", "palm": "weak", "front-off": "poor"},
        "seal:bin-seal",
        also="loaded:filter",
    ),
    Story(
        "The filter is clean, I say; it is not",
        "upright-twin-roller",
        ("weak", "whine"),
        {"filter-look:foam": ("clean", "dirt"), "pitch": "higher", "front-off": "poor", "vents": "weak"},
        "loaded:foam",
    ),
    Story(
        "I rinsed the hose on Sunday and since then the room smells",
        "canister-bagless",
        ("smell",),
        {"wet-inside:hose": "wet", "began": "at-once"},
        "put-back-wet:hose",
        background=Background({("", "hose"): WASHED}, serviced={"": 1.0}),
        first=(("after-service", "yes"),),
        early=("wet-inside:hose",),
    ),
    Story(
        "It howls and smells like burnt wire, I just want it to go on until Saturday",
        "upright-belt",
        ("burnt", "labours"),
        {"motor-signs:motor": "yes"},
        "motor:motor",
        ends=Stand.HAND_OVER,
        early=("cord-look:cord",),
        never=("pitch", "front-off", "palm", "vents", "lamp:cord"),
    ),
    Story(
        "It gets hot on its charger and I unplugged it",
        "cordless-two-filter",
        ("no-charge",),
        {},
        "",
        first=(("charger-hot", "yes"),),
        ends=Stand.HAND_OVER,
        never=("pack-alone:battery", "charge-minutes:battery", "pack-volts:battery"),
    ),
    Story(
        "We drilled into an old ceiling and vacuumed what fell down",
        "canister-bagged",
        ("weak",),
        {},
        "",
        first=(("harmful", "yes"),),
        ends=Stand.HAND_OVER,
        never=("bag-look:bag", "filter-look:filter", "front-off"),
    ),
    Story(
        "It stops in front of the dark rug and says there is a drop",
        "robot-belt",
        ("msg-cliff",),
        {"edge-look:sensors": "dusty", "began": "slowly"},
        "cliff-dusty:sensors",
        dock="dock-charge",
        early=("edge-look:sensors",),
    ),
    Story(
        "Water stands under the dock since I emptied it",
        "robot-mop",
        ("dock-leaks",),
        {"dock:hose-slot-look:dirty-tank": "out", "after-service": "yes", "began": "at-once"},
        "dock:hose-slot:dirty-tank",
        dock="dock-wash",
        first=(("after-service", "yes"),),
        early=("dock:hose-slot-look:dirty-tank",),
    ),
    Story(
        "It is hardly charged when it sets off, though it stood in the dock all night",
        "robot-two-roller",
        ("no-charge", "covers-less"),
        {"contacts-look:contacts": "grimy"},
        "contacts:contacts",
        dock="dock-bag",
        never=("charge-minutes-robot:body",),
    ),
    Story(
        "My brush is said to comb itself, but there is hair on it",
        "cordless-two-filter",
        ("winds-again",),
        {"run-on:head": "cleared"},
        "hair-on:head",
        features=frozenset({"self-clean"}),
        early=("run-on:head",),
    ),
    Story(
        "No marble gets through my hose, it has an elbow at each end; I borrowed a second vacuum",
        "upright-belt",
        ("weak",),
        {"pitch": "higher", "back-suck:hose": "stuck", "front-off": "good"},
        "wad:hose",
        first=(("front-off", "good"),),
        features=frozenset({"angled-hose"}),
    ),
)
"""Danger, two things at once, what is meant so: where a good repairer would end, and what must never come before."""


def looks(story: Story) -> list[str]:
    """The checks that it is led through, in their order."""
    made: list[str] = []
    for _ in _steps(story, made):
        pass
    return made


def _steps(story: Story, made: list[str] | None = None) -> Iterator[str]:
    of = story.subject()
    states = States(of)
    case = Case(of, tuple(Noticed(key) for key in story.symptoms))
    for probe, says in story.first:
        case = answered(case, probe, says)
        yield f"told: {_said(of, probe, says)}"
    for _ in range(25):
        now = assess(case, story.background, WITHOUT_A_GAUGE, states)
        match now.verdict.stand:
            case Stand.ASK:
                probe = now.next[0].probe
                if made is not None:
                    made.append(probe.key)
                says = story.says(probe, case)
                case = answered(case, probe.key, says)
                yield f"{now.next[0].minutes:.1f} min: {_said(of, probe.key, says)}"
            case Stand.CURE | Stand.TRY:
                case = case.with_event(Cured(now.verdict.suspects[0]))
            case Stand.RETEST:
                gone = story.gone(case)
                case = case.with_event(Retested(gone))
                yield f"put right: {of.suspect(now.verdict.suspects[0]).name}; {'gone' if gone else 'still there'}"
            case _:
                names = now.verdict.danger or ", ".join(of.suspect(key).name for key in now.verdict.suspects)
                yield f"{now.verdict.stand}: {names}"
                return


def _said(of: Subject, probe: str, says: str) -> str:
    one = of.probe(probe)
    return f"{one.name} {next(o.words for o in one.check.outcomes if o.key == says)}"


def document() -> str:
    """All stories as they stand in docs/why/faults.md."""
    told = []
    for story in STORIES:
        told += [f"**{story.title}.**", "", *(f"{i}. {line}" for i, line in enumerate(story.told(), 1)), ""]
    return "\n".join(told)


if __name__ == "__main__":
    print(document())
