/* store.h: settings that survive power-off. */
#pragma once
#include "hw.h"
enum store_state { STORE_FRESH, STORE_LOADED, STORE_OTHER_LAYOUT, STORE_DAMAGED };
/* Loads what is stored if it is of this layout and whole; else leaves the settings alone and says why. */
enum store_state store_load(void);
bool store_save(void);
const char *store_word(enum store_state state);
