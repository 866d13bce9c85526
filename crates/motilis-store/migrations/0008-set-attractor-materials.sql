-- Attractors that nobody weighed were all of brass: dodgers are thin steel, flashers plastic hardly heavier than water,
-- wing attractors hard plastic.
UPDATE parts SET material = CASE style
    WHEN 'dodger' THEN 'steel' WHEN 'rotating_flasher' THEN 'light_plastic' ELSE 'hard_plastic' END
WHERE part = 'attractor' AND style IN ('dodger', 'rotating_flasher', 'wing') AND material = 'brass';
