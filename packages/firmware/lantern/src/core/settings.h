/* settings.h: the values that can be changed while running, and stored. One generated table of rows (settings_table.h)
 * says for each which command and letter set it, its range and how it is told; the values lie beside it in the same
 * order. */
#pragma once
#include "hal/hw.h"
#include "settings_table.h"

enum setting_type { SETTING_NUMBER, SETTING_WHOLE, SETTING_FLAG };

/* A command that sets or tells one setting or several. `number` 0: worded, by its verb. */
struct setting_line {
    const char *verb;
    char letter;
    uint16_t number;
    uint8_t first, count; /* of its rows */
    bool live;            /* may be changed while the machine moves */
};
struct setting_row {
    float least, most;
    float built_in;
    uint8_t type;
    char letter;
    uint8_t decimals;
    uint16_t name; /* in the store */
};
extern const struct setting_line SETTING_LINES[];
extern const struct setting_row SETTING_ROWS[];

/* By place: SET_STEPS_X + axis, SET_PID_HOTEND_P, … */
extern float setting[SETTINGS_COUNT];

/* Back to the values compiled into the image; tells every feature of each that changed. */
void settings_reset(void);
/* Changes one value and tells every feature. The caller has checked its range. */
void setting_put(int place, float value);
/* Whether a value is one that the row may hold. */
bool setting_allows(int place, float value);
