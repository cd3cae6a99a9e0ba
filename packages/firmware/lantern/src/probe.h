/* probe.h: the bed probe. Without one these compile to nothing. */
#pragma once
#include "hw.h"
void probe_start(void);
bool probe_there(void);
void probe_deploy(bool out);
bool probe_deployed(void);
bool probe_triggered(void);
