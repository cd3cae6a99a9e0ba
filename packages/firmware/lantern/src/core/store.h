/* store.h: settings that survive power-off. */
#pragma once
#include "hal/hw.h"
enum store_state { STORE_FRESH, STORE_LOADED, STORE_OTHER_LAYOUT, STORE_DAMAGED };
/* Loads the newest whole record of this layout; else leaves the settings alone and says why. */
enum store_state store_load(void);
/* Begins to store what is in use; false when this board or image keeps nothing. */
bool store_begin(void);
/* Writes on; true when all is in the store. Until then the record before it stays whole. */
bool store_saved(void);
/* `lead state=…` */
void store_report(const char *lead, enum store_state state);
