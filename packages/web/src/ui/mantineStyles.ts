/**
 * The styles of Mantine's components that the interface uses, and of those they are made of, in the order of Mantine's
 * own sheet: half of its rules are of others, and every first visit would read them. A test finds one that is missing.
 */
import '@mantine/core/styles/baseline.css';
import '@mantine/core/styles/default-css-variables.css';
import '@mantine/core/styles/global.css';
import '@mantine/core/styles/ScrollArea.css';
import '@mantine/core/styles/UnstyledButton.css';
import '@mantine/core/styles/VisuallyHidden.css';
import '@mantine/core/styles/Paper.css';
import '@mantine/core/styles/Overlay.css';
import '@mantine/core/styles/Popover.css';
import '@mantine/core/styles/Loader.css';
import '@mantine/core/styles/ActionIcon.css';
import '@mantine/core/styles/CloseButton.css';
import '@mantine/core/styles/ModalBase.css';
import '@mantine/core/styles/Input.css';
import '@mantine/core/styles/FloatingIndicator.css';
import '@mantine/core/styles/Combobox.css';
import '@mantine/core/styles/InlineInput.css';
import '@mantine/core/styles/CheckboxCard.css';
import '@mantine/core/styles/CheckboxIndicator.css';
import '@mantine/core/styles/Checkbox.css';
import '@mantine/core/styles/Button.css';
import '@mantine/core/styles/Menu.css';
import '@mantine/core/styles/Modal.css';
import '@mantine/core/styles/NumberInput.css';
import '@mantine/core/styles/Progress.css';
import '@mantine/core/styles/RadioCard.css';
import '@mantine/core/styles/RadioIndicator.css';
import '@mantine/core/styles/Radio.css';
import '@mantine/core/styles/Tooltip.css';
import '@mantine/core/styles/SegmentedControl.css';
import '@mantine/core/styles/Slider.css';
import '@mantine/core/styles/Switch.css';
