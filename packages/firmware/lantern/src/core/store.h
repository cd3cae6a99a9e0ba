/* store.h: settings that survive power-off. */
#pragma once
#include "hal/hw.h"
#include "option_motion.h"
/* Room of a slot; behind both, the place of a print that was cut off, then the bed map. */
enum { STORE_SLOT = 400, STORE_BEHIND = 2 * STORE_SLOT, STORE_NOTE = OFFSETS_ON ? 176 : 96, STORE_MAP = STORE_BEHIND + STORE_NOTE };
enum store_state { STORE_FRESH, STORE_LOADED, STORE_OTHER_LAYOUT, STORE_DAMAGED };
/* Loads the newest whole record, as far as this image knows its settings and may hold their values; OTHER_LAYOUT where the
 * two do not match whole. Where there is no record, leaves the settings alone and says why. */
enum store_state store_load(void);
/* Begins to store what is in use; false when this board or image keeps nothing. */
bool store_begin(void);
/* Writes on; true when all is in the store. Until then the record before it stays whole. */
bool store_saved(void);
/* `lead state=…` */
void store_report(const char *lead, enum store_state state);
