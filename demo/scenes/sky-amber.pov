// An amber evening sky with long broken cloud, low sun behind a far headland.
#version 3.7;
#include "lantern-quay.inc"
global_settings{ assumed_gamma 1.0 max_trace_level 4 }
#default{ finish{ ambient 0 diffuse 0.8 } }
camera{ perspective location <0,2.4,-17> look_at <0,5.0,0> right x*image_width/image_height up y angle 52 }
CloudDome(srgb <0.24,0.34,0.52>, srgb <0.97,0.70,0.42>, 0.62, rgb <1.00,0.52,0.24>, rgb <0.30,0.20,0.25>, 0.50, <2.7,0.4,3.1>, <0.34,0.048,0.30>)
#if (!MATTE) light_source{ <40,6,180> rgb <0.5,0.33,0.18> shadowless } light_source{ <0,60,-60> rgb <0.10,0.11,0.15> shadowless } #end
#declare Ridge = function{ pattern{ bozo warp{ turbulence 0.7 octaves 6 omega 0.5 } scale 0.16 } }
height_field{ function 600,120 { 0.25+0.75*Ridge(x+5.2,y*0.3,2.1)*sin(pi*y) } smooth translate <-0.5,0,-0.5> scale <300,10,60> translate <0,-4,150>
  Around(texture{ pigment{ granite scale 14 color_map{ [0 srgb <0.40,0.31,0.34>][1 srgb <0.48,0.38,0.38>] } } finish{ diffuse 0.9 emission 0.35 } }) }
plane{ y,-0.2 Around(texture{ pigment{ srgb <0.20,0.17,0.19> } normal{ average normal_map{ [1 bumps 0.035 scale <2.2,1,0.5>][1 wrinkles 0.02 scale <1,1,0.25>] } } finish{ diffuse 0.2 reflection{ 0.06,0.9 falloff 3 } conserve_energy } }) }
