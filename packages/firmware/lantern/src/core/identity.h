/* identity.h: who runs here. */
#pragma once
#include "hal/hw.h"
/* Line 0: name, kit, target, build; line 1: the volume. False for any other. */
bool identity_report(int line);
