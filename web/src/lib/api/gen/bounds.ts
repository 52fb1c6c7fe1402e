/* Made from docs/openapi.json by `make contract`. */
export const BOUNDS = {
  "AcceptIn": {
    "secret": {
      "maxlength": 200
    },
    "user_name": {
      "maxlength": 80
    },
    "password": {
      "maxlength": 1024
    },
    "person": {
      "maxlength": 80
    }
  },
  "AnswerIn": {
    "step": {
      "maxlength": 200
    },
    "value": {
      "maxlength": 120
    },
    "reason": {
      "maxlength": 200
    }
  },
  "AnswersIn": {
    "long_haired": {
      "max": 20,
      "min": 0,
      "step": 1
    },
    "animals": {
      "max": 50,
      "min": 0,
      "step": 1
    },
    "children": {
      "max": 20,
      "min": 0,
      "step": 1
    },
    "area": {
      "max": 1000000,
      "min": 0
    },
    "carpet": {
      "max": 1,
      "min": 0
    },
    "dust": {
      "most": 100
    },
    "tools": {
      "most": 100
    },
    "places": {
      "most": 100
    }
  },
  "ArrivedIn": {
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "came": {
      "most": 1000
    }
  },
  "AssignIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "CameIn": {
    "number": {
      "maxlength": 60
    },
    "count": {
      "max": 10000,
      "min": 0,
      "step": 1
    }
  },
  "CaseIn": {
    "symptoms": {
      "most": 8
    },
    "unasked": {
      "most": 8
    }
  },
  "ChangeIn": {
    "runs": {
      "most": 100
    },
    "animals": {
      "max": 50,
      "min": 0,
      "step": 1
    },
    "long_haired": {
      "max": 20,
      "min": 0,
      "step": 1
    },
    "children": {
      "max": 20,
      "min": 0,
      "step": 1
    },
    "carpet": {
      "max": 1,
      "min": 0
    },
    "sets": {
      "most": 100
    },
    "weekdays": {
      "most": 7
    },
    "hour_value": {
      "max": 50000,
      "min": 0,
      "step": 1
    }
  },
  "ChoreIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "ClaimIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "CloseIn": {
    "reason": {
      "maxlength": 200
    }
  },
  "CountIn": {
    "on_hand": {
      "max": 10000,
      "min": 0,
      "step": 1
    }
  },
  "CounterIn": {
    "slot": {
      "maxlength": 120
    },
    "value": {
      "max": 1000000,
      "min": 0
    },
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "DangerIn": {
    "danger": {
      "maxlength": 120
    }
  },
  "DaysIn": {
    "first": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "last": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "note": {
      "maxlength": 80
    }
  },
  "DeviceIn": {
    "name": {
      "maxlength": 60
    },
    "place": {
      "maxlength": 60
    }
  },
  "DockIn": {
    "name": {
      "maxlength": 60
    },
    "archetype": {
      "maxlength": 120
    }
  },
  "EarlierIn": {
    "bought": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "last_done": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "FeatureIn": {
    "feature": {
      "maxlength": 120
    }
  },
  "FeedIn": {
    "alarm_min": {
      "max": 10080,
      "min": 0,
      "step": 1
    }
  },
  "FigureIn": {
    "figure": {
      "max": 1000000,
      "min": 0
    },
    "why": {
      "maxlength": 200
    }
  },
  "FirstIn": {
    "name": {
      "maxlength": 80
    },
    "time_zone": {
      "maxlength": 120
    },
    "code": {
      "maxlength": 80
    },
    "user_name": {
      "maxlength": 80
    },
    "password": {
      "maxlength": 1024
    },
    "person": {
      "maxlength": 80
    }
  },
  "FitFoundIn": {
    "number": {
      "maxlength": 60
    },
    "note": {
      "maxlength": 200
    }
  },
  "FitIn": {
    "early_reason": {
      "maxlength": 200
    }
  },
  "FoundIn": {
    "name": {
      "maxlength": 80
    },
    "time_zone": {
      "maxlength": 120
    }
  },
  "HabitIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "HabitsIn": {
    "hands": {
      "most": 8
    },
    "visit_min": {
      "max": 240,
      "min": 0
    },
    "wait_min": {
      "max": 240,
      "min": 0
    },
    "hour_value": {
      "max": 50000,
      "min": 0,
      "step": 1
    }
  },
  "HandsIn": {
    "who": {
      "maxlength": 60
    },
    "weekdays": {
      "most": 7
    },
    "minutes": {
      "max": 480,
      "min": 5
    }
  },
  "HangingIn": {
    "place": {
      "maxlength": 60
    }
  },
  "HeldCountIn": {
    "entry_ids": {
      "most": 1000
    }
  },
  "HeldDropIn": {
    "entry_ids": {
      "most": 1000
    }
  },
  "HomeChangedIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "InvitationIn": {
    "name": {
      "maxlength": 80
    }
  },
  "KitIn": {
    "kit": {
      "maxlength": 120
    },
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "LineIn": {
    "supplier": {
      "maxlength": 60
    },
    "code": {
      "maxlength": 60
    },
    "count": {
      "max": 10000,
      "min": 0,
      "step": 1
    }
  },
  "LookIn": {
    "slot": {
      "maxlength": 120
    },
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "MachineIn": {
    "days": {
      "most": 100
    },
    "every": {
      "max": 60,
      "min": 2,
      "step": 1
    },
    "minutes": {
      "max": 1440,
      "min": 0.1
    },
    "return_min": {
      "max": 1440,
      "min": 5
    },
    "dry_h": {
      "max": 24,
      "min": 0.5
    },
    "name": {
      "maxlength": 60
    },
    "archetype": {
      "maxlength": 120
    },
    "features": {
      "most": 100
    },
    "spares": {
      "most": 100
    }
  },
  "MachineWeekIn": {
    "days": {
      "most": 7
    },
    "minutes": {
      "max": 1440,
      "min": 0.1
    }
  },
  "MeasureIn": {
    "measure": {
      "maxlength": 120
    },
    "value": {
      "max": 1000000,
      "min": 0
    },
    "unit": {
      "maxlength": 120
    },
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "MishapIn": {
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "MoreLoadIn": {
    "first": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "last": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "level": {
      "max": 1,
      "min": 0
    },
    "note": {
      "maxlength": 80
    }
  },
  "MoveIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "NameIn": {
    "name": {
      "maxlength": 60
    }
  },
  "NoteIn": {
    "slot": {
      "maxlength": 120
    },
    "text": {
      "maxlength": 1000
    },
    "remind_on": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "NumberIn": {
    "number": {
      "maxlength": 60
    },
    "note": {
      "maxlength": 200
    }
  },
  "OrderIn": {
    "lines": {
      "most": 1000
    }
  },
  "PartIn": {
    "name": {
      "maxlength": 60
    },
    "station": {
      "maxlength": 120
    },
    "use": {
      "maxlength": 120
    },
    "material": {
      "maxlength": 120
    },
    "figure": {
      "max": 1000000,
      "min": 0
    }
  },
  "PartPlaceIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "PasswordIn": {
    "old": {
      "maxlength": 1024
    },
    "new": {
      "maxlength": 1024
    }
  },
  "PersonIn": {
    "name": {
      "maxlength": 80
    }
  },
  "PickIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "PlaceIn": {
    "station": {
      "maxlength": 120
    },
    "air_order": {
      "max": 100,
      "min": 0,
      "step": 1
    },
    "refit_order": {
      "max": 100,
      "min": 0,
      "step": 1
    }
  },
  "PlaceInOut": {
    "name": {
      "maxlength": 60
    },
    "temp_c": {
      "max": 140,
      "min": -60
    },
    "rh_pct": {
      "max": 100,
      "min": 0
    }
  },
  "PlanIn": {
    "tasks": {
      "most": 1000
    }
  },
  "PullIn": {
    "felt": {
      "max": 10000,
      "min": 0,
      "step": 1
    }
  },
  "ReadingIn": {
    "value": {
      "max": 1000000,
      "min": 0
    },
    "unit": {
      "maxlength": 120
    },
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "ReasonIn": {
    "reason": {
      "maxlength": 200
    }
  },
  "RepairIn": {
    "cost": {
      "max": 100000000,
      "min": 0,
      "step": 1
    },
    "minutes": {
      "max": 1000000,
      "min": 0
    },
    "adds_years": {
      "max": 100,
      "min": 0
    }
  },
  "ReplaceIn": {
    "days": {
      "most": 100
    },
    "every": {
      "max": 60,
      "min": 2,
      "step": 1
    },
    "minutes": {
      "max": 1440,
      "min": 0.1
    },
    "return_min": {
      "max": 1440,
      "min": 5
    },
    "dry_h": {
      "max": 24,
      "min": 0.5
    },
    "name": {
      "maxlength": 60
    },
    "archetype": {
      "maxlength": 120
    },
    "features": {
      "most": 100
    },
    "spares": {
      "most": 100
    },
    "keep": {
      "most": 1000
    }
  },
  "RestIn": {
    "first": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "last": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "RoundIn": {
    "key": {
      "maxlength": 120
    },
    "days": {
      "max": 730,
      "min": 1
    }
  },
  "RunIn": {
    "minutes": {
      "max": 1440,
      "min": 0.1
    },
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "RunsIn": {
    "days": {
      "max": 7,
      "min": 1,
      "step": 1
    }
  },
  "SchoolIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "SecondSetIn": {
    "slot": {
      "maxlength": 120
    }
  },
  "SecretIn": {
    "secret": {
      "maxlength": 200
    }
  },
  "ServiceIn": {
    "slot": {
      "maxlength": 120
    },
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "SettingIn": {
    "power": {
      "max": 1,
      "min": 0
    }
  },
  "SheetIn": {
    "tasks": {
      "most": 1000
    }
  },
  "SignIn": {
    "user_name": {
      "maxlength": 200
    },
    "password": {
      "maxlength": 1024
    }
  },
  "SizeIn": {
    "volume": {
      "max": 1000000,
      "min": 0
    },
    "known_volume": {
      "max": 1000000,
      "min": 0
    },
    "known_weeks": {
      "max": 1000000,
      "min": 0
    },
    "pressed": {
      "max": 1,
      "min": 0
    }
  },
  "SpareIn": {
    "slot": {
      "maxlength": 120
    },
    "name": {
      "maxlength": 60
    }
  },
  "SparePartIn": {
    "name": {
      "maxlength": 60
    },
    "places": {
      "most": 100
    },
    "numbers": {
      "most": 100
    },
    "least": {
      "max": 10000,
      "min": 0,
      "step": 1
    }
  },
  "StatusIn": {
    "keep": {
      "most": 1000
    }
  },
  "StepsAnsweredIn": {
    "answers": {
      "most": 100
    }
  },
  "StockMoveIn": {
    "count": {
      "max": 10000,
      "min": 0,
      "step": 1
    },
    "number": {
      "maxlength": 60
    },
    "note": {
      "maxlength": 200
    }
  },
  "TakeIn": {
    "away": {
      "most": 100
    },
    "no_visit": {
      "most": 100
    }
  },
  "ToldIn": {
    "after": {
      "max": 10000,
      "min": 0,
      "step": 1
    },
    "key": {
      "maxlength": 120
    },
    "says": {
      "maxlength": 120
    },
    "kpa": {
      "max": 1000000,
      "min": 0
    },
    "clean_kpa": {
      "max": 1000000,
      "min": 0
    },
    "day": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  },
  "TurnIn": {
    "name": {
      "maxlength": 60
    }
  },
  "UndoIn": {
    "also": {
      "most": 200
    },
    "reason": {
      "maxlength": 200
    }
  },
  "UpkeepIn": {
    "days": {
      "most": 100
    },
    "every": {
      "max": 60,
      "min": 2,
      "step": 1
    },
    "minutes": {
      "max": 1440,
      "min": 0.1
    },
    "return_min": {
      "max": 1440,
      "min": 5
    },
    "dry_h": {
      "max": 24,
      "min": 0.5
    },
    "archetype": {
      "maxlength": 120
    },
    "features": {
      "most": 100
    },
    "dock": {
      "maxlength": 120
    }
  },
  "WaitIn": {
    "slot": {
      "maxlength": 120
    },
    "until": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "reason": {
      "maxlength": 200
    }
  },
  "WeekIn": {
    "days": {
      "most": 100
    },
    "every": {
      "max": 60,
      "min": 2,
      "step": 1
    },
    "minutes": {
      "max": 1440,
      "min": 0.1
    },
    "return_min": {
      "max": 1440,
      "min": 5
    },
    "dry_h": {
      "max": 24,
      "min": 0.5
    }
  },
  "WeighIn": {
    "value": {
      "max": 1000000,
      "min": 0
    }
  },
  "WhatIfIn": {
    "changes": {
      "most": 4
    }
  },
  "WishIn": {
    "first": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "last": {
      "first": "2000-01-01",
      "yearsAhead": 5
    },
    "chores": {
      "most": 1000
    },
    "note": {
      "maxlength": 80
    }
  },
  "WorthToldIn": {
    "price_new": {
      "max": 100000000,
      "min": 0,
      "step": 1
    },
    "life_years": {
      "max": 100,
      "min": 0
    },
    "hour_value": {
      "max": 100000000,
      "min": 0,
      "step": 1
    },
    "guarantee_until": {
      "first": "2000-01-01",
      "yearsAhead": 5
    }
  }
} as const;
/** Why a part went that says nothing of how long such a part lasts. */
export const BY_CHANCE: readonly string[] = ["accident", "lost"];
/** The units that each kind of reading may be told in. */
export const READING_UNITS = {
  "felt": [
    ""
  ],
  "suction": [
    "kPa",
    "inH2O"
  ],
  "charge": [
    "min"
  ],
  "area": [
    "m2",
    "ft2"
  ],
  "picked_up": [
    "g",
    "oz"
  ]
} as const;
/** What is done to a part: as it is asked, as it was done, as a thing, and where there is little room. */
export const DEEDS = {
  "empty": {
    "ask": "empty",
    "done": "emptied",
    "noun": "emptying",
    "brief": "empty"
  },
  "inspect": {
    "ask": "look",
    "done": "looked at",
    "noun": "look",
    "brief": "look"
  },
  "rinse": {
    "ask": "rinse",
    "done": "rinsed",
    "noun": "rinse",
    "brief": "rinse"
  },
  "swap": {
    "ask": "swap sides",
    "done": "swapped",
    "noun": "swap",
    "brief": "swap sides"
  },
  "de_hair": {
    "ask": "take the hair out",
    "done": "de-haired",
    "noun": "de-hairing",
    "brief": "de-hair"
  },
  "wipe": {
    "ask": "wipe",
    "done": "wiped",
    "noun": "wipe",
    "brief": "wipe"
  },
  "wash": {
    "ask": "wash",
    "done": "washed",
    "noun": "wash",
    "brief": "wash"
  },
  "air": {
    "ask": "air",
    "done": "aired",
    "noun": "airing",
    "brief": "air"
  },
  "clean": {
    "ask": "clean",
    "done": "cleaned",
    "noun": "cleaning",
    "brief": "clean"
  },
  "replace": {
    "ask": "replace",
    "done": "replaced",
    "noun": "replacement",
    "brief": "replace"
  }
} as const;
/** What a look saw, within a sentence. */
export const SAW = {
  "clean": "clean",
  "light": "a little dirty",
  "due": "dirty",
  "overdue": "far gone"
} as const;
