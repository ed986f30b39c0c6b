"""Line-up at the camera: the live picture under the hero's frame, measured, and which dial to turn."""
