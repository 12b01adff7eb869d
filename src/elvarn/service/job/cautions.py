"""Cautions at the step where the hand would be hurt. They can't be put away."""

AID = (
    "Elvarn is an aid to a qualified person, not a release to drive. "
    "Local rules and licensed people have the last word."
)

CAUTIONS = {
    "port": [
        "Eyes, lungs and hearing covered; no loose sleeves or gloves at a turning tool; stay below its marked speed.",
        "Aluminium dust burns; magnesium burns violently and must not meet water. Collect them apart, keep a class D "
        "extinguisher at hand.",
        "Alcohol on the abrasive takes fire at shop temperature: no sparks, small bottle, fresh air.",
        "Before welding: oil and coatings off, fumes drawn away.",
    ],
    "fit": [
        "Relieve the fuel pressure and disconnect the battery first; rags ready, no flame, extinguisher at hand.",
        "Engine off: the throttle must sweep and snap shut from every angle, the brake servo's hose and valve be on. "
        "Never sign off with these unchecked.",
        "Look down every runner before it closes: no rag, swarf or hardware inside.",
        "Running indoors makes carbon monoxide. Fans start by themselves; hair and sleeves away.",
        "Changed intake parts can break emission rules for road use: check the local code.",
    ],
    "dyno": [
        "Straps and guards checked, nobody in line with the wheels.",
        "Agree what stops the pull: lean mixture, knock, injector duty, temperature, oil pressure.",
    ],
    "handover": [AID],
}
