"""Cautions at the step where the hand would be hurt. They can't be put away."""

AID = (
    "Elvarn supports a qualified person; it does not approve a vehicle for use. "
    "Local rules and licensed professionals decide."
)

CAUTIONS = {
    "port": [
        "Eyes, lungs and hearing covered; no loose sleeves or gloves at a turning tool; stay below its marked speed.",
        "Aluminium dust burns; magnesium burns violently and must not meet water. Collect them apart, keep a class D "
        "extinguisher at hand.",
        "Alcohol vapour ignites at shop temperature: no sparks, small bottle, fresh air.",
        "Before welding: clean off oil and coatings, extract fumes.",
    ],
    "fit": [
        "Relieve the fuel pressure and disconnect the battery first; rags ready, no flame, extinguisher at hand.",
        "Engine off: throttle sweeps fully and snaps shut from any angle; brake servo hose and check valve fitted. "
        "Never sign off unchecked.",
        "Look down every runner before it closes: no rag, swarf or hardware inside.",
        "Running indoors makes carbon monoxide. Fans start by themselves; hair and sleeves away.",
        "Changed intake parts can break emission rules for road use: check the local code.",
    ],
    "dyno": [
        "Check straps and guards; nobody in line with the wheels.",
        "Agree stop limits: lean mixture, knock, injector duty, temperature, oil pressure.",
    ],
    "handover": [AID],
}
