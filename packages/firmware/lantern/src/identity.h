/* identity.h: who runs here. */
#pragma once
void identity_report(void);
